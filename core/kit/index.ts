/** Kits: what a site begins with before it has pages. */
export { contentsOfKit, type Kit, type KitFile, type KitTemplate } from './kit'
export { kitOfSite } from './of-site'
export { faultOfKit, type KitStart, plainKit, startOfKit } from './start'
