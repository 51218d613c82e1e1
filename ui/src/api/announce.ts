import { useSyncExternalStore } from 'react';

// The last edit, for screen readers. The same words twice in a row are read twice.
let said = '';
const watchers = new Set<() => void>();

export function announce(words: string) {
  said = words !== '' && words === said ? `${words} ` : words;
  watchers.forEach((watch) => watch());
}

const watch = (tell: () => void) => {
  watchers.add(tell);
  return () => watchers.delete(tell);
};

export const useSaid = (): string => useSyncExternalStore(watch, () => said);
