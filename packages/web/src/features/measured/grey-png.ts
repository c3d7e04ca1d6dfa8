/** A grey picture as a PNG file, drawn in a worker. */
export async function greyPng({
  width,
  height,
  data,
}: {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8Array;
}): Promise<Blob> {
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d')!;
  const image = context.createImageData(width, height);
  data.forEach((level, i) => image.data.set([level, level, level, 255], 4 * i));
  context.putImageData(image, 0, 0);
  return canvas.convertToBlob({ type: 'image/png' });
}
