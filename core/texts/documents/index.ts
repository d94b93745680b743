/** Documents of word processors as pages. */
export { pageOfDocument, type DocumentPicture, type PageOfDocument, withPictures } from './document'
