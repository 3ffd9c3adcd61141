/** The browser's own reader of codes, where it has one (Shape Detection API). */
interface Detector {
  detect(source: ImageBitmapSource): Promise<{ rawValue: string }[]>
}
type DetectorClass = new (options: { formats: string[] }) => Detector

const detector = () => (window as unknown as { BarcodeDetector?: DetectorClass }).BarcodeDetector

export const canScan = () => Boolean(detector() && navigator.mediaDevices)

/** The code in a picture, or nothing. */
export async function firstCode(source: ImageBitmapSource): Promise<string> {
  const Reader = detector()
  if (!Reader) return ''
  const codes = await new Reader({ formats: ['qr_code'] }).detect(source).catch(() => [])
  return codes[0]?.rawValue ?? ''
}
