/** Pictures: what their files tell, and the HTML that shows them. */
export { pictureForm, pixelBytes, type Pixels, readPixels } from './pixels'
export { blankPlace, placeBytes } from './exif-place'
export {
  copyWidths,
  heightFor,
  type PictureCopy,
  pictureHtml,
  type ShownPicture,
  widthFor,
} from './picture-html'
