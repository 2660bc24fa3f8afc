/** How a picture leaves the browser: as PNG for a mark, as JPEG for a photograph. */
export interface Small {
  readonly width: number
  readonly height: number
  readonly type: 'image/png' | 'image/jpeg'
}
const JPEG_QUALITY = 0.8

/**
 * A picture made small enough for its place, in the browser; turned as its camera says.
 * @returns a data address
 * @throws Error where the file is no picture
 */
export async function smallPicture(file: Blob, most: Small): Promise<string> {
  const picture = await createImageBitmap(file, { imageOrientation: 'from-image' })
  const scale = Math.min(1, most.width / picture.width, most.height / picture.height)
  const canvas = document.createElement('canvas')
  canvas.width = Math.max(1, Math.round(picture.width * scale))
  canvas.height = Math.max(1, Math.round(picture.height * scale))
  canvas.getContext('2d')?.drawImage(picture, 0, 0, canvas.width, canvas.height)
  picture.close()
  return canvas.toDataURL(most.type, JPEG_QUALITY)
}
