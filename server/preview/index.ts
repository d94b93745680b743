export { previewBase, servePreview } from './preview'
