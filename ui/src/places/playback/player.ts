import { api, taken } from '../../api/client';
import { complain } from '../../api/edits';
import type { paths } from '../../api/schema';

export type Command = paths['/api/player']['post']['requestBody']['content']['application/json'];

/** Sends a command to the player, and shows why it was refused. */
export async function press(command: Command): Promise<boolean> {
  try {
    await taken(api.POST('/api/player', { body: command }));
    return true;
  } catch (error) {
    complain(error);
    return false;
  }
}

/** m:ss of a song. */
export const length = (seconds: number) => {
  const whole = Math.round(seconds);
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`;
};

/** The time of day, so many seconds from now. */
export const endsAt = (seconds: number, now = new Date()) =>
  new Date(now.getTime() + seconds * 1000).toLocaleTimeString('en-GB', {
    hour: '2-digit',
    minute: '2-digit',
  });

const FOLLOWS = { hand: 'manual start', on: 'starts automatically', pause: 'starts after a pause' };
export const followsWords = (follows: keyof typeof FOLLOWS, pause = 0) =>
  follows === 'pause' ? `next after ${pause} s` : FOLLOWS[follows];

/** How it goes tonight where that is not as the song is: " (90 %, up 2)". */
export const tonightWords = ({ tempo, key_by }: { tempo: number; key_by: number }) => {
  const words = [
    tempo === 100 ? '' : `${tempo} %`,
    key_by === 0 ? '' : `${key_by > 0 ? 'up' : 'down'} ${Math.abs(key_by)}`,
  ].filter((one) => one !== '');
  return words.length > 0 ? ` (${words.join(', ')})` : '';
};
