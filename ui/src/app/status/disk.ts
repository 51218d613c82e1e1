import type { LiveState } from '../../api/client';
import { span } from '../../look/format';

/** The recording time left, in words for the status bar. A slow disk may not report its free space. */
export function diskWords({ seconds, free_bytes, armed_lanes }: LiveState['disk']): string {
  if (seconds !== null) return `${span(seconds)} of disk`;
  return free_bytes === null && armed_lanes > 0 ? 'free space unknown' : 'no track armed';
}
