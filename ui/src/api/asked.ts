import type { Port, Settings, Show } from './client';

type Sheet = Show['sheet'];

// What an edit connects: the ports of a cell, and in the same order the ports whose sound they get.
type Connection = [ends: Port[], sources: (string | null)[]];

/** The sheet with the connections that an edit asks for. Such a thread belongs to no strand until the application has computed where its sound
 *  goes, and is drawn dashed. One that the edit takes away is gone at once. */
export function asked(sheet: Sheet, settings: Settings): Sheet {
  const connections = Object.entries(settings).flatMap(([path, value]) => connection(sheet, path, value));
  return connections.reduce(connect, sheet);
}

function connection(sheet: Sheet, path: string, value: unknown): Connection[] {
  const [, kind = '', number = '', field = ''] =
    /^(channel|send|track)\/(\d+)\/(stage|source|inputs)$/.exec(path) ?? [];
  const ends = sheet.ports.filter((port) => port.rail === kind && port.number === Number(number));
  if (field === 'inputs') return [[ends, (value as number[]).map((lane) => `card/send/${lane}`)]];
  // A stereo channel's source is two sockets: that is for the application to say.
  return field !== '' && ends.length === 1 ? [[ends, [value as string | null]]] : [];
}

function connect(sheet: Sheet, [ends, sources]: Connection): Sheet {
  const ids = new Set(ends.map((end) => end.id));
  const others = sheet.threads.filter((thread) => !ids.has(thread.to));
  const threads = ends.flatMap((end, at) => {
    const source = sheet.ports.find((port) => port.id === sources[at]);
    if (!source) return [];
    const straight = source.row === end.row;
    return [{ from: source.id, to: end.id, dye: source.dye, straight, strands: [] }];
  });
  return { ...sheet, threads: [...others, ...threads] };
}
