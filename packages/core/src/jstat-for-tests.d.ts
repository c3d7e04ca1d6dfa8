declare module 'jstat' {
  const jstat: {
    quantiles(
      values: readonly number[],
      probabilities: readonly number[],
      alphap: number,
      betap: number,
    ): number[];
  };
  export default jstat;
}
