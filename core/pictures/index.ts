/** Pictures, still and moving, and sounds: what their files tell, and the HTML that shows them. */
export { pictureForm, pixelBytes, type Pixels, readPixels } from './pixels'
export { onePageOf } from './tiff'
export { isDrawn, isOfDisplayP3 } from './kept-as'
export { blankPlace, placeBytes } from './exif-place'
export { FilmPlace, isFilm } from './film-place'
export { type FoundPicture, pictureAt } from './picture-at'
export {
  type Arrangement,
  copyWidths,
  heightFor,
  type PictureCopy,
  pictureHtml,
  picturesHtml,
  roomy,
  type ShownPicture,
  widthFor,
} from './picture-html'
export { captionOf, playedAs, recordingHtml, type RecordingKind, type ShownRecording } from './recording-html'
