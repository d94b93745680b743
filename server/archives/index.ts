export { archiveSite, takeArchive } from './archives'
