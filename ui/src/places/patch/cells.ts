import type { Port, Settings, Show } from '../../api/client';
import type { Column } from '../../api/queries';

// What each rail's cell sets. Which values fit comes from the API; here is only which question to ask.
export interface Field {
  column: Column;
  label: string;
}

export const FIELDS: Record<Port['rail'], Field[]> = {
  socket: [{ column: 'socket_feeds', label: 'Goes to channel' }],
  channel: [
    { column: 'hears_on_stage', label: 'Hears on stage' },
    { column: 'hears_on_take', label: 'Hears on take' },
  ],
  send: [
    { column: 'send', label: 'Takes from' },
    { column: 'tap', label: 'Tap' },
  ],
  track: [
    { column: 'track_input', label: 'Captures' },
    { column: 'track_output', label: 'Plays to' },
  ],
  return: [{ column: 'return_feeds', label: 'Heard on take by' }],
};

/** The settings that empty a cell's first field; null where there is nothing to empty. */
export function emptying(show: Show, port: Port): Settings | null {
  switch (port.rail) {
    case 'channel':
      return { [`channel/${port.number}/stage`]: null };
    case 'send':
      return { [`send/${port.number}/source`]: null };
    case 'track':
      return { [`track/${port.number}/inputs`]: [] };
    case 'socket':
      return listening(show, 'stage', port.id);
    case 'return':
      return listening(show, 'take', port.id);
  }
}

function listening(show: Show, field: 'stage' | 'take', point: string): Settings | null {
  const heard = show.channels.filter((channel) => channel[field] === point);
  return heard.length > 0
    ? Object.fromEntries(heard.map((channel) => [`channel/${channel.number}/${field}`, null]))
    : null;
}
