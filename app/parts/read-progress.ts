/** How a long work ended. */
export type Ended = { readonly problem: string } | { readonly end: true; readonly result?: unknown }

/** Reads the lines in which the server tells how far a work is. @returns how it ended, null where that was not told */
export async function readProgress(
  body: ReadableStream<Uint8Array>,
  tell: (done: number, all: number) => void,
): Promise<Ended | null> {
  const reader = body.pipeThrough(new TextDecoderStream() as TransformStream<Uint8Array, string>).getReader()
  // Pieces of a line are put together once it ends: a result may be long.
  let pieces: string[] = []
  let ended: Ended | null = null
  for (;;) {
    const { done, value } = await reader.read()
    if (done) return ended
    const lines = value.split('\n')
    while (lines.length > 1) {
      pieces.push(lines.shift()!)
      const told = JSON.parse(pieces.join('')) as { done: number; all: number } | Ended
      pieces = []
      if ('done' in told) tell(told.done, told.all)
      else ended = told
    }
    pieces.push(lines[0]!)
  }
}
