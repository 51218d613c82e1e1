import { replaceEqualDeep } from '@tanstack/react-query';
import type { Show } from './client';

// What is read again is mostly as it was. What is equal stays the same object, so that only what has changed is drawn again. The long lists of
// a show hold flat records, and are looked through in a fraction of the time that it takes to look into anything.

type Flat = object;

function sameRecord(a: Flat, b: Flat): boolean {
  const before = a as Record<string, unknown>;
  const now = b as Record<string, unknown>;
  for (const key in before) if (!(key in now)) return false;
  for (const key in now) {
    const one = before[key];
    const other = now[key];
    if (one === other) continue;
    if (!Array.isArray(one) || !Array.isArray(other) || one.length !== other.length) return false;
    for (let i = 0; i < other.length; i++) if (one[i] !== other[i]) return false;
  }
  return true;
}

/** A list of flat records: those that are equal to the ones in their places before are those. */
export function shareList<T extends Flat>(before: T[], now: T[]): T[] {
  let same = before.length === now.length;
  const shared = now.map((record, i) => {
    const was = before[i];
    if (was && (was === record || sameRecord(was, record))) return was;
    same = false;
    return record;
  });
  return same ? before : shared;
}

/** A show, with all that is as it was in the one before. */
export function shareShow(before: Show | undefined, now: Show): Show {
  if (!before) return now;
  const { sheet } = now;
  const shared: Show = {
    ...now,
    channels: shareList(before.channels, now.channels),
    sends: shareList(before.sends, now.sends),
    tracks: shareList(before.tracks, now.tracks),
    strands: shareList(before.strands, now.strands),
    sheet: {
      ports: shareList(before.sheet.ports, sheet.ports),
      threads: shareList(before.sheet.threads, sheet.threads),
      loose: shareList(before.sheet.loose, sheet.loose),
    },
  };
  return replaceEqualDeep(before, shared); // what is shared already is not looked into again
}
