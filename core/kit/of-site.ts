import { namesOf } from '#core/naming'
import type { Site } from '#core/site'
import type { Kit, KitFile } from './kit'

/**
 * What of a site the next one can begin with: its scheme, its templates, its style sheets and scripts, and
 * of its other files those that the templates or style sheets show. Nothing of its pages.
 * @param isShown whether a template or a style sheet refers to a file
 */
export function kitOfSite(
  site: Site,
  { name, about }: Pick<Kit, 'name' | 'about'>,
  isShown: (fileId: string) => boolean,
): Kit {
  const { files: paths } = namesOf(site)
  const files = site.files
    .filter((file) => file.kind === 'style' || file.kind === 'script' || isShown(file.id))
    .toSorted((a, b) => a.seq - b.seq)
    .map(({ id, kind, hash, sizeBytes }): KitFile => {
      const path = paths.get(id)!
      // Called what it is named: told apart from files that do not come along, it keeps its name.
      return { label: path.slice(path.lastIndexOf('/') + 1), kind, path, hash, sizeBytes }
    })
  const nameOf = new Map(site.templates.map((template) => [template.id, template.name]))
  return {
    name,
    about,
    scheme: site.scheme,
    titlePattern: site.titlePattern,
    homeTitlePattern: site.homeTitlePattern,
    output: site.output,
    template: nameOf.get(site.templateId)!,
    templates: site.templates.map(({ name: called, source, basedOn }) => ({
      name: called,
      source,
      basedOn: basedOn === null ? null : nameOf.get(basedOn)!,
    })),
    files,
    picture: null,
  }
}
