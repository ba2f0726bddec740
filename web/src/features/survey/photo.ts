const longest = 1600 // px: enough to read a label

/**
 * Makes a picture smaller on the device and turns it as the camera held it. Only pixels are written anew, so nothing
 * that the camera noted goes out. A browser that cannot read the picture sends it as it is; the server does the same.
 */
export async function smaller(file: File): Promise<Blob> {
  try {
    const image = await createImageBitmap(file, { imageOrientation: 'from-image' })
    const scale = Math.min(1, longest / Math.max(image.width, image.height))
    const canvas = document.createElement('canvas')
    canvas.width = Math.round(image.width * scale)
    canvas.height = Math.round(image.height * scale)
    canvas.getContext('2d')!.drawImage(image, 0, 0, canvas.width, canvas.height)
    return await new Promise((done, fail) =>
      canvas.toBlob((b) => (b ? done(b) : fail(new Error('no picture'))), 'image/jpeg', 0.85),
    )
  } catch {
    return file
  }
}
