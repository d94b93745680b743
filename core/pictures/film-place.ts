/** Boxes of which all is looked at once it has come: larger ones than any that says where, and they are let go. */
const mostHeld = 1_000_000
/** Bytes of the longest head of a box that is read. */
const longestHead = 16
/** Boxes that hold what is said of the whole film, or of a track of it (ISO/IEC 14496-12 §8.2, §8.3). */
const holders = new Set(['moov', 'trak'])
/** Where that is said (§8.10.1, §8.11.1). */
const telling = new Set(['udta', 'meta'])
/** Boxes of user data that say a place: text as ISO 6709 has it, and the one of 3GPP TS 26.244 §8.10. */
const places = new Set(['\u00a9xyz', 'loci'])

interface Box {
  readonly type: string
  /** Bytes of it, its head included; Infinity for one that goes on to the end. */
  readonly size: number
  readonly headBytes: number
}

/** A box by its head (ISO/IEC 14496-12 §4.2); null where it is none, 'more' where too little of it is here. */
function boxAt(bytes: Uint8Array, at: number): Box | 'more' | null {
  if (at + 8 > bytes.length) return 'more'
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const type = String.fromCharCode(...bytes.subarray(at + 4, at + 8))
  const short = view.getUint32(at)
  if (short === 0) return { type, size: Infinity, headBytes: 8 }
  if (short !== 1) return short < 8 ? null : { type, size: short, headBytes: 8 }
  if (at + 16 > bytes.length) return 'more'
  const long = view.getUint32(at + 8) * 2 ** 32 + view.getUint32(at + 12)
  return long < 16 ? null : { type, size: long, headBytes: 16 }
}

/** Boxes one behind the other in a stretch, as far as they are whole. */
function boxesIn(
  bytes: Uint8Array,
): { readonly type: string; readonly whole: Uint8Array; readonly inside: Uint8Array }[] {
  const found = []
  for (let at = 0; at < bytes.length;) {
    const box = boxAt(bytes, at)
    if (box === null || box === 'more' || box.size > bytes.length - at) break
    const whole = bytes.subarray(at, at + box.size)
    found.push({ type: box.type, whole, inside: whole.subarray(box.headBytes) })
    at += box.size
  }
  return found
}

/** Makes room that says nothing of a box (§8.1.2): no byte moves. */
function free(whole: Uint8Array): void {
  whole.set([0x66, 0x72, 0x65, 0x65], 4)
  // The long form has its size behind the name.
  whole.fill(0, new DataView(whole.buffer, whole.byteOffset).getUint32(0) === 1 ? 16 : 8)
}

/** Takes places out of user data, and out of what is said by keys. In place. */
function blankTold(type: string, inside: Uint8Array): void {
  if (type === 'udta') {
    for (const box of boxesIn(inside))
      if (places.has(box.type)) free(box.whole)
      else if (box.type === 'meta') blankTold(box.type, box.inside)
    return
  }
  // With version and flags in front, or without: its first box is its handler (§8.11.1).
  const isHandler = (at: number) => String.fromCharCode(...inside.subarray(at + 4, at + 8)) === 'hdlr'
  const boxes = boxesIn(inside.subarray(isHandler(0) ? 0 : 4))
  const keys = boxes.find((box) => box.type === 'keys')?.inside
  // Each with its size and a space of names in front, behind version, flags and their number.
  const isPlace = keys ? boxesIn(keys.subarray(8)).map((key) => /location/i.test(latin(key.inside))) : []
  for (const list of boxes)
    if (list.type === 'ilst')
      for (const item of boxesIn(list.inside)) {
        const index = new DataView(item.whole.buffer, item.whole.byteOffset).getUint32(4)
        if (places.has(item.type) || isPlace[index - 1]) free(item.whole)
      }
}

const latin = (bytes: Uint8Array) => new TextDecoder('latin1').decode(bytes)

/** Whether a file begins as a film of telephones and cameras does (ISO/IEC 14496-12 §4.3). */
export const isFilm = (front: Uint8Array): boolean =>
  front.length >= 8 && latin(front.subarray(4, 8)) === 'ftyp'

/**
 * Takes out of a film where it was taken, as it passes in pieces: what telephones say of it stands in front of the film or behind
 * it. No byte moves, and no more is held than what says something. What is broken goes on as it is.
 */
export class FilmPlace {
  /** What has come and is not decided, and how much of it has to be here first. */
  #held: Uint8Array[] = []
  #heldBytes = 0
  #wanted = 0
  /** Bytes to let go before the next box. */
  #skip = 0

  /**
   * @param piece is written into where it says a place
   * @returns what can go on
   */
  push(piece: Uint8Array): Uint8Array[] {
    this.#held.push(piece)
    this.#heldBytes += piece.length
    if (this.#heldBytes < this.#wanted) return []
    const rest = this.#held.length === 1 ? piece : joined(this.#held, this.#heldBytes)
    this.#wanted = 0
    let at = 0
    for (;;) {
      const skipped = Math.min(this.#skip, rest.length - at)
      this.#skip -= skipped
      at += skipped
      if (at === rest.length) break
      const box = boxAt(rest, at)
      if (box === 'more') this.#wanted = longestHead
      else if (box === null) this.#skip = Infinity
      else if (holders.has(box.type)) this.#skip = box.headBytes
      else if (!telling.has(box.type) || box.size > mostHeld) this.#skip = box.size
      else if (box.size > rest.length - at) this.#wanted = box.size
      else {
        blankTold(box.type, rest.subarray(at + box.headBytes, at + box.size))
        this.#skip = box.size
      }
      if (this.#wanted > 0) break
    }
    this.#held = at < rest.length ? [rest.subarray(at)] : []
    this.#heldBytes = rest.length - at
    return at > 0 ? [rest.subarray(0, at)] : []
  }

  /** @returns what is left once all has come */
  end(): Uint8Array[] {
    return this.#held
  }
}

function joined(pieces: readonly Uint8Array[], size: number): Uint8Array {
  const whole = new Uint8Array(size)
  let at = 0
  for (const piece of pieces) {
    whole.set(piece, at)
    at += piece.length
  }
  return whole
}
