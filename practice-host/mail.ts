import { SMTPServer } from 'smtp-server'

/** A letter as it came, as far as it is shown. */
export interface Letter {
  readonly to: string
  readonly at: Date
  /** Headers and text, as they were sent (RFC 5322). */
  readonly source: string
}

const mostLetters = 200
const mostBytes = 1_000_000

/** Letters that came in, the latest first; kept as long as the practice host runs. */
export class Letterbox {
  readonly #letters: Letter[] = []

  put(letter: Letter): void {
    this.#letters.unshift(letter)
    this.#letters.length = Math.min(this.#letters.length, mostLetters)
  }

  get letters(): readonly Letter[] {
    return this.#letters
  }

  /** A page that shows them. */
  page(): string {
    const escape = (text: string) => text.replace(/[&<>"]/g, (sign) => `&#${sign.charCodeAt(0)};`)
    const shown = this.#letters.map(
      ({ to, at, source }) =>
        `<article><h2>To ${escape(to)}</h2><p>${at.toISOString()}</p><pre>${escape(readable(source))}</pre></article>`,
    )
    return `<!DOCTYPE html>\n<html lang="en"><head><meta charset="utf-8"><title>Letters</title></head><body style="font: 16px/1.5 sans-serif; max-width: 50rem; margin: 2rem auto"><h1>Letters</h1>${shown.join('') || '<p>None yet.</p>'}</body></html>\n`
  }
}

/** A text as it is read: quoted-printable (RFC 2045 §6.7) undone. */
export const readable = (source: string): string =>
  /^content-transfer-encoding: quoted-printable/im.test(source)
    ? Buffer.from(
        source
          .replace(/=\r?\n/g, '')
          .replace(/=([0-9A-F]{2})/g, (_, hex: string) => String.fromCharCode(Number.parseInt(hex, 16))),
        'latin1',
      ).toString('utf8')
    : source

/** A mail server that passes nothing on: whatever is sent to it is kept and shown. */
export function createMailServer(letterbox: Letterbox): SMTPServer {
  return new SMTPServer({
    disabledCommands: ['AUTH', 'STARTTLS'],
    size: mostBytes,
    logger: false,
    onData(stream, session, done) {
      const pieces: Buffer[] = []
      let size = 0
      stream.on('data', (piece: Buffer) => {
        size += piece.length
        if (size <= mostBytes) pieces.push(piece)
      })
      stream.on('end', () => {
        const to = session.envelope.rcptTo.map(({ address }) => address).join(', ')
        letterbox.put({ to, at: new Date(), source: Buffer.concat(pieces).toString('utf8') })
        done()
      })
    },
  })
}
