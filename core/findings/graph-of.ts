import { linkGraph, type LinkGraph } from '#core/graph'
import type { FindingContext } from './rule'

const graphs = new WeakMap<FindingContext, LinkGraph | null>()

/** How the pages lead to one another, worked out once for all rules that ask; null where texts are not read. */
export function graphOf(context: FindingContext): LinkGraph | null {
  let graph = graphs.get(context)
  if (graph === undefined) {
    const { templates, factsOf, pages } = context
    graph = templates && linkGraph(context, pages, { templates, factsOf, plan: context.planToken })
    graphs.set(context, graph)
  }
  return graph
}
