import { LARGEST_PHOTO } from '../../../core/log';

/** Longest side, pixels, and how well it is kept: tried in turn until the photograph is small enough. */
const SIDES = [1280, 1024, 800, 640];
const QUALITY = 0.8;

/** A photograph made small: JPEG in base64, without what the camera wrote beside it; or why that could not be. */
export async function photoOf(file: Blob): Promise<{ ok: true; jpeg: string } | { ok: false; message: string }> {
  const image = await createImageBitmap(file).catch(() => undefined);
  if (!image) return { ok: false, message: 'This is no picture that the browser can read.' };
  for (const side of SIDES) {
    const scale = Math.min(1, side / Math.max(image.width, image.height));
    const canvas = document.createElement('canvas');
    canvas.width = Math.max(1, Math.round(image.width * scale));
    canvas.height = Math.max(1, Math.round(image.height * scale));
    canvas.getContext('2d')!.drawImage(image, 0, 0, canvas.width, canvas.height);
    const jpeg = canvas.toDataURL('image/jpeg', QUALITY).split(',')[1] ?? '';
    if (jpeg && jpeg.length <= LARGEST_PHOTO) return { ok: true, jpeg };
  }
  return { ok: false, message: 'The picture is too large, even made small.' };
}
