import { type KitCard, KitPicture } from './kit-picture'

/** Kits side by side, one of which a site begins with. */
export function KitChoice({
  kits,
  value,
  onPick,
}: {
  kits: readonly KitCard[]
  value: string
  onPick: (kitId: string) => void
}) {
  return (
    <fieldset className="min-w-0">
      <legend className="flex w-full items-baseline gap-4 text-quiet">
        <span className="whitespace-nowrap">It begins as</span>
        <span className="min-w-0 grow truncate text-sm">{kits.find(({ id }) => id === value)?.about}</span>
        <a href="/kits" className="link text-sm whitespace-nowrap">
          All kits
        </a>
      </legend>
      <div className="-mx-1 flex gap-4 overflow-x-auto px-1 pt-1 pb-2">
        {kits.map((kit) => (
          <label key={kit.id} title={kit.about} className="group relative w-32 shrink-0 cursor-pointer text-sm">
            <input
              type="radio"
              name="kit"
              className="peer sr-only"
              value={kit.id}
              checked={kit.id === value}
              onChange={() => onPick(kit.id)}
            />
            <span className="block border-2 border-transparent peer-checked:border-ink peer-focus-visible:outline-3 peer-focus-visible:outline-lapis">
              <KitPicture kit={kit} width={124} />
            </span>
            <span className="block truncate pt-0.5 text-quiet group-hover:text-ink peer-checked:font-semibold peer-checked:text-ink">
              {kit.name}
            </span>
          </label>
        ))}
      </div>
    </fieldset>
  )
}
