import { DestroyRef, Injectable, inject } from '@angular/core';

/** What Chromium's wake lock gives. */
interface Lock {
  release(): Promise<void>;
}

/** A sound for whoever does not look, and a screen that stays awake; where a browser has neither, what is shown has to do. */
@Injectable()
export class Alarm {
  private audio: AudioContext | undefined;
  private lock: Lock | undefined;
  private readonly wake = () => void this.keepAwake();

  constructor() {
    document.addEventListener('visibilitychange', this.wake);
    inject(DestroyRef).onDestroy(() => {
      document.removeEventListener('visibilitychange', this.wake);
      void this.lock?.release();
      void this.audio?.close();
    });
  }

  /** Keeps the screen on while it is looked at. */
  async keepAwake(): Promise<void> {
    if (document.hidden) return;
    try {
      this.lock =
        (await (navigator as unknown as { wakeLock?: { request(kind: 'screen'): Promise<Lock> } }).wakeLock?.request(
          'screen',
        )) ?? undefined;
    } catch {
      // A tablet that saves its battery says no.
    }
  }

  /** Two short tones. */
  sound(): void {
    try {
      this.audio ??= new AudioContext();
      const { currentTime: now, destination } = this.audio;
      for (const [i, hertz] of [880, 660].entries()) {
        const tone = this.audio.createOscillator();
        const gain = this.audio.createGain();
        tone.frequency.value = hertz;
        tone.type = 'square';
        gain.gain.value = 0.25;
        tone.connect(gain).connect(destination);
        tone.start(now + i * 0.22);
        tone.stop(now + i * 0.22 + 0.18);
      }
    } catch {
      // Without sound the screen still shows it.
    }
  }
}
