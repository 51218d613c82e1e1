import type { LiveState } from '../../api/client';
import { span } from '../../look/format';

/** How long the disk lasts, in words for the band. A slow disk may not say how much of it is free. */
export function diskWords({ seconds, free_bytes, armed_lanes }: LiveState['disk']): string {
  if (seconds !== null) return `${span(seconds)} of disk`;
  return free_bytes === null && armed_lanes > 0 ? 'free space unknown' : 'no track armed';
}
