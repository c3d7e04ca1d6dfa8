declare module 'pdfmake/build/pdfmake.js' {
  const maker: {
    addVirtualFileSystem: (files: Record<string, string>) => void;
    setFonts: (fonts: object) => void;
    createPdf: (document: object) => { getBlob: () => Promise<Blob> };
  };
  export default maker;
}
