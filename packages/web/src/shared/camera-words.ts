const WORDS: Readonly<Record<string, string>> = {
  NotAllowedError: 'The browser may not use the camera. Allow it for this page, then try again.',
  NotFoundError: 'No camera is connected. Plug one in, then try again.',
  NotReadableError: 'The camera is in use by another program, or was unplugged.',
  OverconstrainedError: 'The chosen camera is not there any more. Choose another.',
};

export const NO_SECURE_PAGE =
  'This page is not secure, so the browser gives no camera. Open it by https or on this machine.';

/** Why the browser gave no camera, by the error that it names. */
export const cameraWords = (error: unknown): string =>
  WORDS[(error as Partial<DOMException>).name ?? ''] ?? 'The camera could not be opened.';
