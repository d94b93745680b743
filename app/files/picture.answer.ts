import { isDrawn, isOfDisplayP3, onePageOf } from '#core/pictures'
import { untilFetched } from '../parts/fetched'

/** A picture in a form that few browsers show. */
export interface PictureQuestion {
  readonly form: OtherForm
  readonly file: Blob
}
export type OtherForm = 'heic' | 'tiff' | 'bmp'

/** What it is in a form that all of them show; null where it could not be read. */
export type PictureAnswer = { readonly file: Blob; readonly extension: 'jpg' | 'png' } | null

/** Larger ones would take more memory than a window has. */
const mostPixels = 100_000_000
const quality = 0.9

interface Pixels {
  readonly width: number
  readonly height: number
  /** Four bytes each: red, green, blue, and how much hides what is behind. */
  readonly data: Uint8ClampedArray<ArrayBuffer>
  readonly colorSpace: PredefinedColorSpace
  /** Quarter turns to the right that it is shown with. */
  readonly turns: number
}

const read: Readonly<Record<OtherForm, (file: Blob) => Promise<Pixels | null>>> = {
  /** HEIF (ISO/IEC 23008-12), as telephones take photographs; turned by its reader as it says. */
  async heic(file) {
    const bytes = new Uint8Array(await file.arrayBuffer())
    const { default: open } = await untilFetched(() => import('libheif-js/libheif-wasm/libheif-bundle.mjs'))
    const images = new (open().HeifDecoder)().decode(bytes)
    const image = images.find((one) => one.is_primary()) ?? images[0]
    if (!image) return null
    const [width, height] = [image.get_width(), image.get_height()]
    if (width * height > mostPixels) return null
    const colorSpace = isOfDisplayP3(bytes) ? 'display-p3' : 'srgb'
    const data = new Uint8ClampedArray(width * height * 4)
    const shown = await new Promise<object | null>((done) => image.display({ data, width, height }, done))
    return shown && { width, height, data, colorSpace, turns: 0 }
  },
  /** TIFF 6.0, as scanners write it. One of several pages is a document, and stays whole. */
  async tiff(file) {
    const found = onePageOf(new Uint8Array(await file.arrayBuffer()), mostPixels)
    if (!found) return null
    const bytes = found.buffer
    const UTIF = await untilFetched(() => import('utif2'))
    const [page] = UTIF.decode(bytes)
    if (!page) return null
    UTIF.decodeImage(bytes, page)
    const data = new Uint8ClampedArray(UTIF.toRGBA8(page))
    const turned = Number((page.t274 as number[] | undefined)?.[0] ?? 1)
    // Orientation (§8): turned pictures come from cameras, mirrored ones from nowhere.
    const turns = { 3: 2, 6: 1, 8: 3 }[turned] ?? 0
    return { width: page.width, height: page.height, data, colorSpace: 'srgb', turns }
  },
  /** Browsers show it, but none of its bytes are saved: a photograph has thirty million of them. */
  async bmp(file) {
    const bitmap = await createImageBitmap(file)
    const { width, height } = bitmap
    const context = new OffscreenCanvas(width, height).getContext('2d')!
    context.drawImage(bitmap, 0, 0)
    bitmap.close()
    return { ...context.getImageData(0, 0, width, height), width, height, colorSpace: 'srgb', turns: 0 }
  },
}

function imageOf({ data, width, height, colorSpace }: Pixels): ImageData {
  try {
    return new ImageData(data, width, height, { colorSpace })
  } catch {
    // Not every browser knows other colours than those of sRGB: they come out somewhat paler.
    return new ImageData(data, width, height)
  }
}

/** Makes a picture one that every browser shows: a photograph a JPEG, another a PNG. It tells nothing then of where it was taken. */
export async function pictureShown(_: unknown, { form, file }: PictureQuestion): Promise<PictureAnswer> {
  const pixels = await read[form](file).catch(() => null)
  if (!pixels || pixels.width * pixels.height === 0) return null
  const { width, height, data, turns } = pixels
  const isUpright = turns % 2 === 0
  const flat = new OffscreenCanvas(width, height)
  flat.getContext('2d')!.putImageData(imageOf(pixels), 0, 0)
  const canvas = new OffscreenCanvas(isUpright ? width : height, isUpright ? height : width)
  const context = canvas.getContext('2d')!
  context.translate(canvas.width / 2, canvas.height / 2)
  context.rotate((turns * Math.PI) / 2)
  context.drawImage(flat, -width / 2, -height / 2)
  const [type, extension] = isDrawn(data) ? (['image/png', 'png'] as const) : (['image/jpeg', 'jpg'] as const)
  return { file: await canvas.convertToBlob({ type, quality }), extension }
}
