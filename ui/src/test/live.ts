import { connectLive } from '../api/live';

const ignore = () => undefined;
const listeners = new Set<LiveSource>();
let end: (() => void) | null = null;

/** The browser's own feed, which hears what tests tell. */
export class LiveSource extends EventTarget {
  constructor() {
    super();
    listeners.add(this);
  }

  close() {
    listeners.delete(this);
  }
}

/** An event of the live feed, such as "state", as if the application had sent it. */
export function tellLive(event: string, said: object) {
  end ??= connectLive(ignore, ignore, ignore, ignore, ignore, ignore);
  listeners.forEach((one) => one.dispatchEvent(new MessageEvent(event, { data: JSON.stringify(said) })));
}

/** As before anything was told. */
export function hangUp() {
  end?.();
  end = null;
}
