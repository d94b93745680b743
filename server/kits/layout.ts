import Joi from 'joi'
import { outputInput, schemeInput } from '#core/change/inputs'
import { type Kit, faultOfKit } from '#core/kit'
import { defaultScheme, type Hash, type Output, type Scheme } from '#core/site'
import { nameLabel } from '#core/naming'
import { Problem } from '#core/problems'
import { parseJson } from '#server/platform'
import type { StoredContent } from '#server/contents'
import { fileKindOf } from '#server/sites'

/** What tells of a kit where it is files; its layout is in docs/formats.md. */
export const manifestName = 'kit.json'
const format = 'site kit'
const version = 1
/** Where the files of the site stand beside the templates. */
const filesFolder = 'files/'

interface Manifest {
  readonly format: typeof format
  readonly version: typeof version
  readonly name: string
  readonly about: string
  readonly scheme: Scheme
  readonly titlePattern: string
  readonly homeTitlePattern: string
  readonly output: Output
  /** Name of the template of pages for which nothing else is said. */
  readonly template: string
  readonly templates: readonly {
    readonly name: string
    readonly file: string
    readonly basedOn: string | null
  }[]
  /** Paths in the site; each stands in the folder `files/`. */
  readonly files: readonly string[]
  readonly picture: string | null
}

/** A kit has no more than this. */
const mostTemplates = 100
export const mostKitFiles = 1_000

const words = Joi.string().trim().max(200).required()
const path = Joi.string().max(400)
/** What a kit is called, and what is said about it. */
export const kitWords = {
  name: Joi.string().trim().min(1).max(100).required().messages({ 'string.empty': 'Give the kit a name.' }),
  about: Joi.string().trim().allow('').max(500).default(''),
}
const manifestInput = Joi.object<Manifest>({
  format: Joi.valid(format).required(),
  version: Joi.valid(version).required(),
  ...kitWords,
  scheme: schemeInput.required(),
  titlePattern: words,
  homeTitlePattern: words.allow(''),
  output: outputInput,
  template: words,
  templates: Joi.array()
    .items(Joi.object({ name: words, file: path.required(), basedOn: words.allow(null) }))
    .min(1)
    .max(mostTemplates)
    .required(),
  files: Joi.array().items(path).unique().max(mostKitFiles).required(),
  picture: path.allow(null).default(null),
})

const bad = (why: string) => new Problem('bad-kit', { why })

/** A kit as files: what its manifest says, and the content of every other file by its path. */
export function layOut(kit: Kit): { manifest: string; contents: Map<string, Hash> } {
  const contents = new Map<string, Hash>()
  const taken = new Set<string>()
  const templates = kit.templates.map(({ name, source, basedOn }) => {
    const stem = nameLabel(name, defaultScheme, 'en').name
    let file = `templates/${stem}.html`
    for (let nth = 2; taken.has(file); nth++) file = `templates/${stem}-${nth}.html`
    taken.add(file)
    contents.set(file, source)
    return { name, file, basedOn }
  })
  for (const { path: at, hash } of kit.files) contents.set(filesFolder + at, hash)
  const picture = kit.picture === null ? null : 'picture.png'
  if (picture) contents.set(picture, kit.picture!)
  const { name, about, scheme, titlePattern, homeTitlePattern, output, template } = kit
  const said: Manifest = {
    format,
    version,
    name,
    about,
    scheme,
    titlePattern,
    homeTitlePattern,
    output,
    template,
    templates,
    files: kit.files.map((file) => file.path),
    picture,
  }
  return { manifest: `${JSON.stringify(said, null, 2)}\n`, contents }
}

/** A content of a kit's folder, and how it begins. */
export interface LaidOut extends StoredContent {
  readonly head: Buffer
}

/**
 * The kit that files are.
 * @param contentAt what stands at a path beside the manifest
 * @throws Problem `bad-kit`
 */
export async function readLayout(
  manifest: string,
  contentAt: (path: string) => LaidOut | undefined,
): Promise<Kit> {
  const json = parseJson(manifest)
  if (json === null) throw bad(`Its ${manifestName} is no JSON.`)
  const { value, error } = manifestInput.validate(json)
  if (error) throw bad(`In its ${manifestName}, ${error.message}.`)
  const { format: _format, version: _version, templates, files, picture, ...said } = value
  const at = (file: string) => {
    const found = contentAt(file)
    if (!found) throw bad(`There is no “${file}” in it.`)
    return found
  }
  const kit: Kit = {
    ...said,
    templates: templates.map(({ name, file, basedOn }) => ({ name, basedOn, source: at(file).hash })),
    files: await Promise.all(
      files.map(async (file) => {
        const { hash, sizeBytes, head } = at(filesFolder + file)
        const label = file.slice(file.lastIndexOf('/') + 1)
        const told = await fileKindOf(label, head)
        if (told.label !== label)
          throw bad(`“${file}” is not what it is called; it would be “${told.label}”.`)
        return { label, kind: told.kind, path: file, hash, sizeBytes }
      }),
    ),
    picture: picture === null ? null : at(picture).hash,
  }
  if (picture !== null) {
    const told = await fileKindOf('picture.png', at(picture).head)
    if (told.kind !== 'image' || told.label !== 'picture.png') throw bad('Its picture is no PNG.')
  }
  const fault = faultOfKit(kit)
  if (fault !== null) throw bad(fault)
  return kit
}
