// The part of pdfmake that is used here; the package ships no types.
declare module 'pdfmake' {
  interface PdfMake {
    addFonts(fonts: Record<string, { normal: string; bold: string; italics: string; bolditalics: string }>): void
    setUrlAccessPolicy(allow: (url: string) => boolean): void
    setLocalAccessPolicy(allow: (path: string) => boolean): void
    createPdf(definition: Record<string, unknown>): { getBuffer(): Promise<Buffer> }
  }
  const pdfmake: PdfMake
  export default pdfmake
}
