import { ZipFile } from 'yazl'

/** A ZIP of some files, in pieces as it is made. */
export async function zipped(files: Readonly<Record<string, string | Buffer>>): Promise<Buffer[]> {
  const zip = new ZipFile()
  for (const [name, content] of Object.entries(files)) zip.addBuffer(Buffer.from(content), name)
  zip.end()
  const pieces: Buffer[] = []
  for await (const piece of zip.outputStream) pieces.push(piece as Buffer)
  return pieces
}
