import { useEffect, useRef, useState } from 'react'
import { encodePath, escapeAttribute, escapeText } from '#core/markup'
import { namesOf, splitFileName } from '#core/naming'
import type { SiteFile } from '#core/site'
import { captionOf, playedAs, recordingHtml } from '#core/pictures'
import { useSite } from '../document/site-context'
import { useFiles } from '../files/files-context'
import { Sending } from '../files/sending'
import { couldBePage, isOfRows } from '../files/text-name'
import type { Fitting } from '../parts/editor/put-into'
import { useStableActions } from '../parts/use-stable-actions'
import { fileAddress } from '../files/file-address'
import { fileAsPicture } from './file-as-picture'
import type { WantedPicture } from './picture-dialog'
import { untilFetched } from '../parts/fetched'
import { type PlayedRecording, recordingIn } from './recording-in'

/** Pictures that wait for what their author says of them. */
export interface AskedPictures {
  readonly pictures: readonly WantedPicture[]
  /** What they are sent with, and their smaller copies. */
  readonly sending: Sending
  /** Called once: with the HTML, or with '' when they are not to stand here after all. */
  readonly done: (html: string) => void
}

/** Texts that wait for what is to become of them. */
export interface AskedTexts {
  readonly files: readonly File[]
  /** Called once: with the HTML of what they say, and with those that are to be led to. */
  readonly done: (html: string, toLink: readonly File[]) => void
}

/**
 * Puts files into the site and makes the HTML that shows or leads to them. Pictures are asked about first,
 * while they are on their way already.
 */
export function useInsertion() {
  const { store } = useSite()
  const { uploads } = useFiles()
  const [asked, setAsked] = useState<AskedPictures | null>(null)
  const [askedTexts, setAskedTexts] = useState<AskedTexts | null>(null)
  const sendTogether = () => new Sending(store, uploads)
  /** What goes where the view is left before its author has said what is to become of it. */
  const undecided = useRef<Sending | null>(null)
  useEffect(() => () => undecided.current?.takeBack(), [])

  /** Files, pictures in a form that browsers show. */
  const shownFiles = async (files: readonly File[]): Promise<readonly File[]> =>
    (await Promise.all(files.map((file) => uploads.shown(file)))).filter((file) => file !== null)
  const wanted = (file: File, sending: Sending): WantedPicture => {
    const name = file.name || 'Picture.png'
    return {
      name,
      shown: URL.createObjectURL(file),
      sizeBytes: file.size,
      bytes: () => Promise.resolve(file),
      fileId: sending.send(file, name),
    }
  }
  /** Asks about pictures; resolves to the HTML that shows them. */
  const ask = (pictures: readonly WantedPicture[], sending = sendTogether()): Promise<string> =>
    new Promise((resolve) => {
      undecided.current = sending
      setAsked({
        pictures,
        sending,
        done(html) {
          setAsked(null)
          undecided.current = null
          if (html === '') sending.takeBack()
          for (const { shown } of pictures) if (shown.startsWith('blob:')) URL.revokeObjectURL(shown)
          resolve(html)
        },
      })
    })
  /** Asks whether texts are to stand here, or to be led to; resolves to the HTML of the first and to the second. */
  const askTexts = (files: readonly File[]): Promise<readonly [string, readonly File[]]> =>
    new Promise((resolve) => {
      setAskedTexts({
        files,
        done(html, toLink) {
          setAskedTexts(null)
          resolve([html, toLink])
        },
      })
    })
  /** Puts a file into the site that is no picture: the HTML that plays it, or leads to it. */
  const placeOther = async (file: File, sending: Sending): Promise<string> => {
    const address = URL.createObjectURL(file)
    const played = playedAs(file.name) ? recordingIn(address) : null
    void Promise.allSettled([played]).then(() => URL.revokeObjectURL(address))
    return leadTo(await sending.send(file, file.name), await played)
  }
  /** The HTML that plays a file of the site, or leads to it; '' where it is none after all. */
  const leadTo = (id: string | null, recording: PlayedRecording | null): string => {
    const { site } = store.get()
    const added = site.files.find((one) => one.id === id)
    const path = id === null ? undefined : namesOf(site).files.get(id)
    if (!added || path === undefined) return ''
    const address = `/${encodePath(path)}`
    const { stem } = splitFileName(added.label)
    return recording
      ? recordingHtml({ ...recording, address, caption: captionOf(stem) })
      : `<a href="${escapeAttribute(address)}">${escapeText(stem)}</a>`
  }
  /** What shows, says, plays and leads to files, one after the other; '' for nothing. */
  const together = (shown: string, said: string, others: readonly string[]): string => {
    const stood = others.filter((piece) => piece !== '')
    const played = stood.filter((piece) => !piece.startsWith('<a '))
    const links = stood.filter((piece) => piece.startsWith('<a ')).join('\n')
    // Beside blocks links are a paragraph of their own.
    const led = links !== '' && (played.length > 0 || said !== '') ? `<p>${links}</p>` : links
    return [shown, said.trimEnd(), ...played, led].filter((piece) => piece !== '').join('\n')
  }
  /** Puts files into the site and asks about them; resolves to the HTML of them all. */
  const htmlOf = async (given: readonly File[]): Promise<string> => {
    const files = await shownFiles(given)
    const pictures = files.filter((file) => file.type.startsWith('image/'))
    const texts = files.filter(
      (file) => !pictures.includes(file) && (couldBePage(file.name) || isOfRows(file.name)),
    )
    const sending = sendTogether()
    const coming = pictures.map((file) => wanted(file, sending))
    const shown = coming.length > 0 ? await ask(coming, sending) : ''
    const [said, toLink] = texts.length > 0 ? await askTexts(texts) : ['', []]
    const others = [...files.filter((file) => !pictures.includes(file) && !texts.includes(file)), ...toLink]
    // Pictures that were called off took what they were sent with along.
    const sendingOthers = shown === '' ? sendTogether() : sending
    const placed = others.map((file) => placeOther(file, sendingOthers))
    return together(shown, said, await Promise.all(placed))
  }
  /** The HTML of pictures, films and sounds that the site has already. */
  const htmlOfStored = async (files: readonly SiteFile[]): Promise<string> => {
    const siteId = store.get().site.id
    const pictures = files.filter((file) => file.kind === 'image')
    const others = files.filter((file) => !pictures.includes(file))
    const shown = pictures.length > 0 ? await ask(pictures.map((file) => fileAsPicture(siteId, file))) : ''
    const played = others.map(async ({ id }) => leadTo(id, await recordingIn(fileAddress(siteId, id))))
    return together(shown, '', await Promise.all(played))
  }
  const { insert } = useStableActions({
    async insert(given: readonly File[]): Promise<Fitting | null> {
      const html = await htmlOf(given)
      if (html === '') return null
      const { fitInto } = await untilFetched(() => import('./texts'))
      return (text, where) => fitInto(text, where, html)
    },
  })
  return {
    asked,
    askedTexts,
    ask,
    insert,
    htmlOf,
    htmlOfStored,
  }
}
