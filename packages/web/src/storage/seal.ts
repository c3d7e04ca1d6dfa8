/** Text that only a key from the server opens: AES-GCM with a nonce of its own. */
export interface Sealed {
  readonly iv: Uint8Array<ArrayBuffer>;
  readonly data: ArrayBuffer;
}

/** `keyHex` is 32 bytes as 64 hexadecimal digits. Throws a TypeError for another. */
async function keyOf(keyHex: string): Promise<CryptoKey> {
  if (!/^[0-9a-f]{64}$/.test(keyHex)) throw new TypeError('a key of 64 hexadecimal digits is needed');
  const bytes = Uint8Array.from(keyHex.match(/../g)!, (pair) => Number.parseInt(pair, 16));
  return crypto.subtle.importKey('raw', bytes, 'AES-GCM', false, ['encrypt', 'decrypt']);
}

export async function seal(text: string, keyHex: string): Promise<Sealed> {
  const iv = crypto.getRandomValues(new Uint8Array(12));
  const key = await keyOf(keyHex);
  return {
    iv,
    data: await crypto.subtle.encrypt({ name: 'AES-GCM', iv }, key, new TextEncoder().encode(text)),
  };
}

/** The text again, or null under another key or after a change. */
export async function unseal({ iv, data }: Sealed, keyHex: string): Promise<string | null> {
  try {
    const plain = await crypto.subtle.decrypt({ name: 'AES-GCM', iv }, await keyOf(keyHex), data);
    return new TextDecoder().decode(plain);
  } catch (error) {
    if (error instanceof TypeError) throw error;
    return null;
  }
}
