/** What is used of the decoder of HEIF; the package tells the types of another of its files only. */
declare module 'libheif-js/libheif-wasm/libheif-bundle.mjs' {
  interface HeifImage {
    /** Whether it is the one that is meant where one is shown (§6.4.4 of the standard). */
    is_primary(): boolean
    get_width(): number
    get_height(): number
    /** Fills the data that it is given, and hands them on; null where the picture is damaged. */
    display<Into extends object>(into: Into, done: (filled: Into | null) => void): void
  }
  interface Libheif {
    readonly HeifDecoder: new () => { decode(bytes: Uint8Array): HeifImage[] }
  }
  export default function open(): Libheif
}
