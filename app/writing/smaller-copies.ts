/** A picture in fewer pixels, turned as its EXIF says. */
export interface SmallerCopy {
  readonly width: number
  readonly file: Blob
  readonly name: string
}

/** Kinds that browsers can write again; a drawing needs none, and a moving picture would stand still. */
const copied: Readonly<Record<string, string>> = {
  'image/jpeg': 'jpg',
  'image/png': 'png',
  'image/webp': 'webp',
}
const quality = 0.82

/** Makes copies of a picture. Browsers read and write pictures beside the interface, not in it. */
export async function smallerCopies(
  file: Blob,
  name: string,
  widths: readonly number[],
): Promise<SmallerCopy[]> {
  const extension = copied[file.type]
  if (!extension) return []
  const stem = name.replace(/\.[^.]*$/, '')
  const copies: SmallerCopy[] = []
  for (const width of widths) {
    const bitmap = await createImageBitmap(file, {
      resizeWidth: width,
      resizeQuality: 'high',
      imageOrientation: 'from-image',
    })
    try {
      const canvas = new OffscreenCanvas(bitmap.width, bitmap.height)
      canvas.getContext('2d')!.drawImage(bitmap, 0, 0)
      const made = await canvas.convertToBlob({ type: file.type, quality })
      // One that is no lighter helps nobody.
      if (made.size < file.size) copies.push({ width, file: made, name: `${stem} ${width}.${extension}` })
    } finally {
      bitmap.close()
    }
  }
  return copies
}

/** A picture's own size as browsers show it, turned as its EXIF says; null for one without, and for none. */
export function naturalSize(address: string): Promise<{ width: number; height: number } | null> {
  return new Promise((resolve) => {
    const image = new Image()
    image.onload = () =>
      resolve(image.naturalWidth > 0 ? { width: image.naturalWidth, height: image.naturalHeight } : null)
    image.onerror = () => resolve(null)
    image.src = address
  })
}
