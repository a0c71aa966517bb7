// Codes found in pictures: of a camera frame by frame, or of a photograph at several sizes.
import jsQR from 'jsqr'

/** Points on the longer side: of a frame of the camera, and of a photograph, the largest first. */
const FRAME = 800
const SIZES = [1600, 900, 500]

type Source = CanvasImageSource & {
  readonly width?: unknown
  readonly videoWidth?: number
  readonly videoHeight?: number
}
/** Width and height of a picture, or of a frame of a film, points. */
const sizeOf = (of: Source): [number, number] => [
  of.videoWidth ?? Number(of.width),
  of.videoHeight ?? Number((of as { height?: unknown }).height),
]

function codeAt(of: Source, longest: number, canvas: HTMLCanvasElement): string | undefined {
  const [width, height] = sizeOf(of)
  if (!(width > 0 && height > 0)) return undefined
  const scale = Math.min(1, longest / Math.max(width, height))
  canvas.width = Math.round(width * scale)
  canvas.height = Math.round(height * scale)
  const at = canvas.getContext('2d', { willReadFrequently: true })
  if (!at) return undefined
  at.drawImage(of, 0, 0, canvas.width, canvas.height)
  const { data } = at.getImageData(0, 0, canvas.width, canvas.height)
  return jsQR(data, canvas.width, canvas.height)?.data
}

/** The code in a frame of the camera; undefined where there is none. */
export const codeInFrame = (video: HTMLVideoElement, canvas: HTMLCanvasElement): string | undefined =>
  codeAt(video, FRAME, canvas)

/** The code in a photograph. @throws where the file is no picture that the browser reads */
export async function codeInPicture(file: Blob): Promise<string | undefined> {
  const picture = await createImageBitmap(file)
  const canvas = document.createElement('canvas')
  try {
    for (const size of SIZES) {
      const code = codeAt(picture, size, canvas)
      if (code !== undefined) return code
    }
    return undefined
  } finally {
    picture.close()
  }
}
