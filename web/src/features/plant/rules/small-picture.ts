/**
 * A picture made small enough for its place, in the browser: what leaves it is a PNG of at most that size.
 * @returns a data address
 * @throws Error where the file is no picture
 */
export async function smallPicture(
  file: Blob,
  most: { readonly width: number; readonly height: number },
): Promise<string> {
  const picture = await createImageBitmap(file)
  const scale = Math.min(1, most.width / picture.width, most.height / picture.height)
  const canvas = document.createElement('canvas')
  canvas.width = Math.max(1, Math.round(picture.width * scale))
  canvas.height = Math.max(1, Math.round(picture.height * scale))
  canvas.getContext('2d')?.drawImage(picture, 0, 0, canvas.width, canvas.height)
  picture.close()
  return canvas.toDataURL('image/png')
}
