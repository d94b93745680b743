import type { ComparedFile } from './compare'

/** Files that may be sent at once; a step begins when the one before it is complete. */
export type DeliveryStep = readonly ComparedFile[]

const rankOf = (file: ComparedFile): number => {
  if (file.isHome) return 3
  if (file.kind === 'page') return 2
  // Style sheets and scripts ask for pictures and fonts, so these are there before them.
  return /\.(css|js|mjs)$/i.test(file.path) ? 1 : 0
}

/**
 * The order in which visitors never meet a page without what it needs: pictures, documents and
 * fonts, then style sheets and scripts, then pages, and the home page last. Empty steps are left out.
 */
export function orderDelivery(files: readonly ComparedFile[]): DeliveryStep[] {
  const steps: ComparedFile[][] = [[], [], [], []]
  for (const file of files) steps[rankOf(file)]!.push(file)
  return steps.filter((step) => step.length > 0)
}
