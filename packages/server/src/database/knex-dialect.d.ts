/** Knex ships its dialects without types; what is overridden of one is typed where it is. */
declare module 'knex/lib/dialects/postgres/index.js' {
  const dialect: new (...given: unknown[]) => unknown;
  export default dialect;
}
