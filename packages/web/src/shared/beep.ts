/** Made at the first tone and kept: making one costs more than many seconds of ticking. */
let audio: AudioContext | null = null;

/** Two short tones; a browser that was never touched stays silent, and what is shown is what remains. */
export function beep(): void {
  try {
    audio ??= new AudioContext();
    if (audio.state === 'suspended') void audio.resume();
    for (const [at, hz] of [
      [0, 880],
      [0.22, 1175],
    ] as const) {
      const tone = audio.createOscillator();
      const volume = audio.createGain();
      tone.frequency.value = hz;
      volume.gain.value = 0.15;
      tone.connect(volume).connect(audio.destination);
      tone.start(audio.currentTime + at);
      tone.stop(audio.currentTime + at + 0.16);
    }
  } catch {
    // No sound device.
  }
}
