import { api, type Schemas, taken } from '../../../api/client';

// Seconds that are ready before they are heard, and the least that is asked for at once.
const AHEAD = 0.6;
const PAUSE_MS = 250;

export type Part = Schemas['Heard'];

/** Samples of a stretch, left and right. */
export function samplesOf(part: Pick<Part, 'sound' | 'frames'>): [Float32Array, Float32Array] {
  const bytes = Uint8Array.from(atob(part.sound), (one) => one.charCodeAt(0));
  const whole = new DataView(bytes.buffer);
  const sides: [Float32Array, Float32Array] = [new Float32Array(part.frames), new Float32Array(part.frames)];
  for (let frame = 0; frame < part.frames; frame++)
    for (const side of [0, 1] as const)
      sides[side][frame] = whole.getInt16(frame * 4 + side * 2, true) / 32768;
  return sides;
}

/** The desk as a listener hears it now: stretches are asked for one after the other, and played without a seam. */
export class Ears {
  private readonly context = new AudioContext();
  private next = 0;
  private from: number | undefined;
  private over = false;

  constructor(
    private readonly listener: number,
    private readonly tell: (by: Part['by'] | null, trouble: string | null) => void,
  ) {
    void this.context.resume();
    void this.run();
  }

  stop() {
    this.over = true;
    void this.context.close();
  }

  private async run() {
    while (!this.over) {
      try {
        const query = { listener: this.listener, ...(this.from === undefined ? {} : { from: this.from }) };
        const part = await taken(api.GET('/api/hearing/now', { params: { query } }));
        if (this.over) return;
        this.play(part);
        this.tell(part.by, null);
      } catch (error) {
        this.from = undefined;
        this.tell(null, error instanceof Error ? error.message : String(error));
      }
      const ready = this.next - this.context.currentTime;
      await new Promise((resolve) => setTimeout(resolve, Math.max(PAUSE_MS, (ready - AHEAD) * 1000)));
    }
  }

  private play(part: Part) {
    this.from = part.position + part.frames;
    if (part.frames === 0) return;
    const buffer = this.context.createBuffer(2, part.frames, part.rate);
    samplesOf(part).forEach((samples, side) => buffer.getChannelData(side).set(samples));
    const node = this.context.createBufferSource();
    node.buffer = buffer;
    node.connect(this.context.destination);
    // What came too late begins again, a little ahead.
    const now = this.context.currentTime;
    if (this.next < now) this.next = now + 0.3;
    node.start(this.next);
    this.next += buffer.duration;
  }
}
