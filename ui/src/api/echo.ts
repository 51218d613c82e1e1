import { asked } from './asked';
import type { Port, Settings, Show } from './client';

// What an edit will certainly look like, shown before the application has answered: names, dyes and arms stand in one
// place each; the connection of an edited cell is drawn as asked for (asked.ts). What else follows comes with the answer, and so does the truth
// when an edit is refused.
const PATH = /^(channel|track)\/(\d+)\/(name|colour|armed)$/;

// Settings from this page that the application has not answered yet.
let waiting: Settings[] = [];

/** Shows those settings in every show that arrives until the returned function is called: a show from somebody else's edit does not
 *  include them yet. */
export function awaitAnswer(settings: Settings): () => void {
  waiting = [...waiting, settings];
  return () => {
    waiting = waiting.filter((one) => one !== settings);
  };
}

/** A show that has come, with what has no answer yet in it. */
export const withAwaited = (show: Show): Show => waiting.reduce(echo, show);

/** The show with those settings in it that can be shown at once; the same show if there are none. */
export function echo(show: Show, settings: Settings): Show {
  const sheet = asked(show.sheet, settings);
  return named(sheet === show.sheet ? show : { ...show, sheet }, settings);
}

function named(show: Show, settings: Settings): Show {
  const known = Object.entries(settings).filter(
    ([path, value]) => PATH.test(path) && value !== null && value !== '',
  );
  return known.reduce((now, [path, value]) => {
    const [, kind = '', number = '', field = ''] = PATH.exec(path) ?? [];
    return put(now, kind as 'channel' | 'track', Number(number), field, value);
  }, show);
}

function put(show: Show, kind: 'channel' | 'track', number: number, field: string, value: unknown): Show {
  const list = kind === 'channel' ? show.channels : show.tracks;
  const items = list.map((item) => (item.number === number ? { ...item, [field]: value } : item));
  const ports = show.sheet.ports.map((port) =>
    port.rail === kind && port.number === number ? drawn(port, field, value) : port,
  );
  return { ...show, [`${kind}s`]: items, sheet: { ...show.sheet, ports } };
}

function drawn(port: Port, field: string, value: unknown): Port {
  if (field === 'name') return { ...port, name: String(value) };
  if (field === 'colour') return { ...port, dye: String(value) };
  return { ...port, note: value === true ? 'armed' : '' };
}
