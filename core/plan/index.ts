/** The plan: the tree of pages, and the plan as indented text. */
export { ancestorsOf, branchOf, compareSiblings, type Place, realPlaces, type Tree, treeOf } from './tree'
export {
  cleanLabel,
  type Outline,
  type OutlineNode,
  planSite,
  readOutline,
  type SitePlan,
  walkOutline,
  writeOutline,
} from './outline'
export { outlineOfSite } from './outline-of-site'
