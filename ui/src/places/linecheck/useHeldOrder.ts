import { useState } from 'react';
import type { RollLine } from '../../api/client';

/** Lines stay where they are while somebody points at them or has one of them in focus: nothing jumps away under a hand. */
export function useHeldOrder(wanted: RollLine[]) {
  const [held, setHeld] = useState<number[] | null>(null);
  const place = new Map((held ?? []).map((channel, at) => [channel, at]));
  const order = [...wanted].sort(
    (one, other) => (place.get(one.channel) ?? Infinity) - (place.get(other.channel) ?? Infinity) || 0,
  );
  const start = () => setHeld((before) => before ?? wanted.map((line) => line.channel));
  const end = () => setHeld(null);
  return {
    order: held ? order : wanted,
    hold: { onPointerEnter: start, onPointerLeave: end, onFocus: start, onBlur: end },
  };
}
