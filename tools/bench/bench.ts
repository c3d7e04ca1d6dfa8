export async function runBench(_args: readonly string[]): Promise<number> {
  return 1;
}
