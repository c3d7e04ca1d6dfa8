declare module '*.csv?raw' {
  const text: string;
  export default text;
}
