import deepEqual from 'fast-deep-equal'
import type { Output } from '#core/site'
import { elsewhere } from '../../edited'
import type { ChangeKind } from '../../kind'

/** Says how finished pages are written: their indentation, line ends and comments. */
export interface SetOutput {
  readonly output: Output
  readonly was: Output
}

export const setOutput: ChangeKind<SetOutput> = {
  manages: true,
  title: () => 'how pages are written',
  apply: (site, { output, was }) =>
    deepEqual(site.output, was) || deepEqual(site.output, output)
      ? { site: { ...site, output } }
      : elsewhere('How pages are written', null),
}
