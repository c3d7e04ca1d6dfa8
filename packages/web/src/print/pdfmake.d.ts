/** Parts of pdfmake, as a program that takes each file by its name sees them. */
declare module 'pdfmake/js/*.js' {
  const part: { readonly default: never };
  export default part;
}
