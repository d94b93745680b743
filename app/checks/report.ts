import { type Finding, type Grade, ruleOf } from '#core/findings'
import { escapeText } from '#core/markup'
import { type Names } from '#core/naming'
import type { Site } from '#core/site'

/** A finding as it is told outside; its schema is in docs/formats.md. */
interface ReportedFinding {
  readonly rule: string
  readonly title: string
  readonly why: string
  readonly grade: Grade
  readonly what: string
  /** Label of the page, or name of the template. */
  readonly page: string
  /** Null in a template. */
  readonly path: string | null
  readonly slot: string | null
  readonly line: number | null
  readonly column: number | null
}

const format = 'site findings'
const version = 1

const told = (rule: string) => {
  const { title, why, grade } = ruleOf(rule)
  return { title, why, grade }
}

function reported(site: Site, names: Names, findings: readonly Finding[]): ReportedFinding[] {
  const labels = new Map([
    ...site.templates.map(({ id, name }) => [id, name] as const),
    ...site.files.map(({ id, label }) => [id, label] as const),
    ...site.pages.map(({ id, label }) => [id, label] as const),
  ])
  return findings.map(({ rule, what, place }) => ({
    rule,
    ...told(rule),
    what,
    page: labels.get(place.id) ?? '',
    path: names.pages.get(place.id)?.path ?? names.files.get(place.id) ?? null,
    slot: place.slot ?? null,
    line: place.line ?? null,
    column: place.column ?? null,
  }))
}

/** Findings as JSON. */
export function reportAsJson(site: Site, names: Names, findings: readonly Finding[]): string {
  const told = { format, version, site: site.name, findings: reported(site, names, findings) }
  return `${JSON.stringify(told, null, 2)}\n`
}

/** Findings as a page to print or to hand on. */
export function reportAsHtml(site: Site, names: Names, findings: readonly Finding[]): string {
  const byRule = new Map<string, ReportedFinding[]>()
  for (const one of reported(site, names, findings))
    byRule.set(one.rule, [...(byRule.get(one.rule) ?? []), one])
  const place = ({ page, path, slot, line }: ReportedFinding) =>
    [path ?? `template “${page}”`, slot && `slot ${slot}`, line !== null && `line ${line}`]
      .filter(Boolean)
      .join(', ')
  const sections = [...byRule.values()].map(
    (list) => `    <h2>${escapeText(list[0]!.title)}</h2>
    <p>${escapeText(list[0]!.why)}</p>
    <ul>
${list.map((one) => `      <li>${escapeText(one.what)} <i>${escapeText(place(one))}</i></li>`).join('\n')}
    </ul>`,
  )
  const title = escapeText(`Findings: ${site.name}`)
  return `<!DOCTYPE html>
<html lang="en">
  <head>
    <meta charset="utf-8">
    <title>${title}</title>
    <style>body { max-width: 46rem; margin: 2rem auto; padding: 0 1rem; font: 1rem/1.5 serif } i { color: #555 } h2 { margin: 1.5rem 0 0 }</style>
  </head>
  <body>
    <h1>${title}</h1>
${sections.join('\n') || '    <p>Nothing was found.</p>'}
  </body>
</html>
`
}
