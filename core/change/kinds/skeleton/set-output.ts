import deepEqual from 'fast-deep-equal'
import type { Output } from '#core/site'
import { elsewhere } from '../../edited'
import type { ChangeKind } from '../../kind'
import { type SetTemplate, setTemplate, type WriteTemplate } from '../templates/set-template'

interface OutputFields {
  readonly output: Output
  readonly was: Output
}

/** Says how finished pages are written: their indentation, line ends and comments, and what is made beside them. */
export interface SetOutput extends OutputFields {
  /** Templates that are written with it: those that name what is made from now on. */
  readonly templates?: readonly SetTemplate[]
}

/** As a window asks for it. */
export interface WriteOutput extends OutputFields {
  readonly templates?: readonly WriteTemplate[]
}

export const setOutput: ChangeKind<SetOutput, WriteOutput> = {
  manages: true,
  // What it writes into templates is seen when it has been stored.
  shown: (request) => ({ ...request, templates: [] }),
  title: () => 'how pages are written',
  apply(site, { output, was, templates = [] }) {
    if (!deepEqual(site.output, was) && !deepEqual(site.output, output))
      return elsewhere('How pages are written', null)
    let next = { ...site, output }
    for (const template of templates) {
      const edited = setTemplate.apply(next, template)
      if ('refusal' in edited) return edited
      next = edited.site
    }
    return { site: next }
  },
}
