/** One file of a site has no more bytes. */
export const mostFileBytes = 200_000_000

/** Folders and files that systems put beside those of their user: views of folders, waste, and indexes to search in. */
const ofSystems = ['__MACOSX/', '\\.AppleDouble/', '\\.DS_Store$', 'Thumbs\\.db$', 'ehthumbs\\.db$', 'desktop\\.ini$', '\\.Trashes/', '\\.Spotlight-V100/', '\\.fseventsd/', '\\$RECYCLE\\.BIN/', 'System Volume Information/'] // prettier-ignore
/** What a disk of another kind keeps of a file beside it (`._tides.html`): no page, whatever its name ends with. */
const besideFiles = ['\\._[^/]+$']
/** What programs leave beside the files that they have open, or keep of earlier ones. */
const ofPrograms = ['\\.git/', '\\.svn/', '\\.hg/', '_vti_[a-z]+/', '\\.~lock\\.[^/]*#$', '~\\$[^/]+$']

const any = new RegExp(`(?:^|/)(?:${[...ofSystems, ...besideFiles, ...ofPrograms].join('|')})`, 'i')

/** Whether a file is one that a system or a program puts beside those of its user, for itself; by its path. */
export const isOfSystem = (path: string): boolean => any.test(path)
