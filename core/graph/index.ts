/** How the pages of a site lead to one another, and how far each is from the home page. */
export { type GraphNode, type GraphSources, linkGraph, type LinkGraph } from './graph'
