/** The part of pdfmake's server interface that is used here. */
declare module "pdfmake" {
  const pdfmake: {
    setFonts(fonts: Record<string, { normal: string; bold: string }>): void;
    setUrlAccessPolicy(allowed: (url: string) => boolean): void;
    setLocalAccessPolicy(allowed: (path: string) => boolean): void;
    createPdf(definition: unknown): { getBuffer(): Promise<Buffer> };
  };
  export default pdfmake;
}

declare module "fontkit" {
  export function create(bytes: Buffer): { hasGlyphForCodePoint(codePoint: number): boolean };
}
