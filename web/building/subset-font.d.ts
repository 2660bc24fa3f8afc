declare module 'subset-font' {
  /** The face with only the glyphs that `text` needs. */
  export default function subsetFont(
    font: Buffer,
    text: string,
    options: { targetFormat: 'woff2' },
  ): Promise<Buffer<ArrayBuffer>>
}
