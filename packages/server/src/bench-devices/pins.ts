import { hash } from '@node-rs/argon2';

/** What is kept of a PIN: argon2, as of a password. */
export const hashOfPin = (pin: string): Promise<string> => hash(pin);

/** A PIN that others try first: one digit again and again, or digits that go up or down by one. */
export function isWeakPin(pin: string): boolean {
  const steps = [...pin].slice(1).map((digit, i) => Number(digit) - Number(pin[i]));
  return [0, 1, -1].some((step) => steps.every((s) => s === step));
}
