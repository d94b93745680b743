import type { OfferedKit } from '#server/kits'

/** What is told of a kit to choose it. */
export interface KitCard {
  readonly id: string
  readonly name: string
  readonly about: string
  readonly hasPicture: boolean
  readonly isOwn: boolean
}

/** What of an offered kit goes to the window. */
export const cardOf = ({ id, kit, isOwn }: OfferedKit): KitCard => ({
  id,
  name: kit.name,
  about: kit.about,
  hasPicture: kit.picture !== null,
  isOwn,
})

/** The page a kit is shown in is made this wide, and shown so many times smaller. */
const pageWidth = 1000

/** How a page made with a kit looks: its picture, or the page itself where it has none. */
export function KitPicture({ kit, width }: { kit: KitCard; width: number }) {
  const height = (width * 3) / 4
  const scale = width / pageWidth
  return (
    <span aria-hidden className="block overflow-hidden border border-rule bg-paper" style={{ width, height }}>
      {kit.hasPicture ? (
        <img
          src={`/kits/${kit.id}/picture`}
          alt=""
          width={width}
          height={height}
          className="size-full object-cover"
        />
      ) : (
        <iframe
          src={`/kits/${kit.id}/look`}
          title={`A page made with ${kit.name}`}
          sandbox=""
          tabIndex={-1}
          loading="lazy"
          className="pointer-events-none origin-top-left border-0"
          style={{ width: pageWidth, height: pageWidth * 0.75, transform: `scale(${scale})` }}
        />
      )}
    </span>
  )
}
