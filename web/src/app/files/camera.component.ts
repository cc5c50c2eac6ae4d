import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  OnDestroy,
  OnInit,
  output,
  signal,
  viewChild,
} from '@angular/core';

/** The longer side that is asked of a camera, px. */
const IDEAL_PX = 2560;

/** The tablet's camera: looks, takes a picture, and goes on until it is put down. */
@Component({
  selector: 'kv-camera',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="camera" role="group" aria-label="Camera" (keydown.escape)="closed.emit()">
      <video #video autoplay playsinline muted></video>
      @if (wrong()) {
        <p class="kv-alert" role="alert">{{ wrong() }}</p>
      }
      <div class="row">
        <button type="button" class="take" data-test="take" [disabled]="!ready()" (click)="take()">
          Take the picture
        </button>
        <span class="kv-soft" role="status">{{ taken() ? taken() + ' taken' : '' }}</span>
        <button type="button" class="kv-link" data-test="camera-done" (click)="closed.emit()">
          {{ taken() ? 'Done' : 'Put the camera down' }}
        </button>
      </div>
    </div>
  `,
  styles: `
    .camera {
      display: grid;
      gap: 8px;
      padding: 10px;
      border: 1px solid var(--kv-line-strong);
      background: var(--kv-plaster);
    }
    video {
      width: 100%;
      max-height: 60vh;
      background: #000;
    }
    .row {
      display: flex;
      align-items: center;
      gap: 14px;
    }
    .take {
      min-height: 48px;
      padding: 0 20px;
      border: 0;
      background: var(--kv-ink);
      color: var(--kv-paper);
      font: inherit;
      font-weight: 600;
      cursor: pointer;
    }
    .take:disabled {
      opacity: 0.5;
    }
    .row .kv-link {
      margin-left: auto;
    }
  `,
})
export class Camera implements OnInit, OnDestroy {
  readonly picture = output<File>();
  readonly closed = output();
  private readonly video = viewChild.required<ElementRef<HTMLVideoElement>>('video');
  private stream: MediaStream | undefined;
  private gone = false;
  protected readonly ready = signal(false);
  protected readonly wrong = signal('');
  protected readonly taken = signal(0);

  async ngOnInit(): Promise<void> {
    try {
      const stream = await navigator.mediaDevices.getUserMedia({
        video: { facingMode: 'environment', width: { ideal: IDEAL_PX } },
      });
      if (this.gone) return stop(stream);
      this.stream = stream;
      const video = this.video().nativeElement;
      video.srcObject = stream;
      video.onloadeddata = () => this.ready.set(true);
      await video.play();
    } catch (failure) {
      const { name } = failure as Error;
      this.wrong.set(
        name === 'NotAllowedError'
          ? 'The browser does not let this page use the camera. Allow it beside the address, and try again.'
          : 'There is no camera here. Take the picture with another device and choose it as a file.',
      );
    }
  }

  ngOnDestroy(): void {
    this.gone = true;
    if (this.stream) stop(this.stream);
  }

  protected take(): void {
    const video = this.video().nativeElement;
    const canvas = document.createElement('canvas');
    canvas.width = video.videoWidth;
    canvas.height = video.videoHeight;
    canvas.getContext('2d')!.drawImage(video, 0, 0);
    const name = `camera ${this.taken() + 1}.jpg`;
    canvas.toBlob(
      (blob) => {
        if (!blob) return;
        this.taken.update((count) => count + 1);
        this.picture.emit(new File([blob], name, { type: 'image/jpeg' }));
      },
      'image/jpeg',
      0.92,
    );
  }
}

const stop = (stream: MediaStream): void => stream.getTracks().forEach((track) => track.stop());
