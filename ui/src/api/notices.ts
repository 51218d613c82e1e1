import { useSyncExternalStore } from 'react';

// One line at the foot of the page: what went wrong, and what can be done about it.
export interface Notice {
  text: string;
  kind: 'error' | 'info';
  action?: { label: string; run: () => void };
}

let notice: Notice | null = null;
const watchers = new Set<() => void>();

export function tell(next: Notice | null) {
  notice = next;
  watchers.forEach((watch) => watch());
}

export function useNotice(): Notice | null {
  return useSyncExternalStore(
    (watch) => {
      watchers.add(watch);
      return () => watchers.delete(watch);
    },
    () => notice,
  );
}
