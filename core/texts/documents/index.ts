/** Documents of word processors as pages, and as plans. */
export { pageOfDocument, type DocumentPicture, type PageOfDocument, withPictures } from './document'
export { planInDocument, type PlanInDocument } from './plan-text'
