export { lookBase, previewBase, servePreview } from './preview'
