import { type Clock, clockOfWindow } from '../parts/clock'

/** A page that has loaded tells of itself at once; */
const tellsWithinMs = 1_000
/** and one that is on its way is waited for so long before it is looked after. */
const loadsWithinMs = 8_000
const looksAgainEveryMs = 3_000
/** What fails although the server answers is not loaded for ever. */
const mostAgain = 3

/** A frame that shows pages of the site, and the line to the server. */
export interface WatchedFrame {
  /** Asks the page that it shows to tell of itself. */
  readonly ask: () => void
  /** Loads the page again. */
  readonly load: () => void
  /** Whether the server answers at all. */
  readonly isAnswered: () => Promise<boolean>
  /** Told when the frame shows nothing since there is no line, and when it shows a page again. */
  readonly onLost: (isLost: boolean) => void
}

/**
 * Notices that a frame shows an empty page of the browser since there is no line to the server, and loads it again when there
 * is. A frame tells nobody that it failed: that the page in it tells nothing is all there is to go by.
 */
export class FrameWatch {
  /** Whether a page is to tell of itself: what a link in it leads to need not. */
  #isExpected = false
  /** Whether what stands in the frame is not the page that stood there before, which would answer for itself. */
  #mayAsk = false
  #again = 0
  #callOff = () => {}

  constructor(
    private readonly frame: WatchedFrame,
    private readonly clock: Clock = clockOfWindow,
  ) {}

  #wait(ms: number, next: () => void): void {
    this.#callOff()
    this.#callOff = this.clock.after(ms, next)
  }

  /**
   * A page is being loaded.
   * @param isNew whether in a new frame, whose page may have told of itself before anybody heard it
   */
  began(isNew = false): void {
    this.#isExpected = true
    this.#mayAsk = isNew
    this.#wait(loadsWithinMs, this.#look)
  }

  /** The frame has loaded something, if only that nothing could be loaded. */
  loaded(): void {
    this.#mayAsk = true
    if (this.#isExpected) this.#wait(tellsWithinMs, this.#look)
  }

  /** The page tells of itself. */
  told(): void {
    this.#callOff()
    this.#isExpected = false
    this.#again = 0
    this.frame.onLost(false)
  }

  /** The line may be back. */
  readonly wake = (): void => void (this.#isExpected && this.#lookAtLine())

  end(): void {
    this.#callOff()
    this.#isExpected = false
  }

  readonly #look = () => {
    if (this.#mayAsk) this.frame.ask()
    this.#wait(tellsWithinMs, () => void this.#lookAtLine())
  }

  async #lookAtLine(): Promise<void> {
    const isAnswered = await this.frame.isAnswered()
    if (!this.#isExpected) return
    if (!isAnswered) {
      this.frame.onLost(true)
      this.#wait(looksAgainEveryMs, () => void this.#lookAtLine())
    } else if (!this.#mayAsk) {
      // A server that is slow is not asked anew.
      this.#wait(loadsWithinMs, this.#look)
    } else if (this.#again < mostAgain) {
      this.#again += 1
      this.frame.load()
      this.began()
    }
  }
}
