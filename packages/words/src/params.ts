export type Params = Readonly<Record<string, string | number>>;

/** A parameter as text; a missing one shows as a question mark rather than as "undefined". */
export const say = (params: Params, name: string): string => String(params[name] ?? '?');
