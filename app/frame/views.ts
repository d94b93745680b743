import type { Right } from '#core/site'

/** The six views in working order. */
export const views = ['plan', 'names', 'template', 'pages', 'checks', 'upload'] as const
export type View = (typeof views)[number]

export const viewTitles: Record<View, string> = {
  plan: 'Plan',
  names: 'Names',
  template: 'Template',
  pages: 'Pages',
  checks: 'Checks',
  upload: 'Upload',
}

/** What has to be allowed for a view to be of any use; for the others it is enough to look. */
export const rightForView: Partial<Record<View, Right>> = {
  names: 'manage',
  template: 'manage',
  upload: 'deliver',
}

/** Views whose right-hand side needs the room, so that the register keeps to label and one mark. */
const narrow: readonly View[] = ['template', 'pages', 'checks']

/** Width of the register when a view is opened: pixels, or a part of the window. */
export const registerWidth = (view: View): number | string => (narrow.includes(view) ? 340 : '50%')

/** The view an address shows. */
export function viewOf(pathname: string): View {
  const segment = pathname.split('/')[3]
  return views.find((view) => view === segment) ?? 'plan'
}
