import { useSyncExternalStore } from 'react';
import { api, type Schemas, taken } from './client';
import { complain } from './edits';
import { tell } from './notices';
import { refreshHeard } from './queries';

export type Levels = Record<string, number | boolean>;

// Levels that somebody is about to set at the desk, for the one dialog of the page.
export interface Pressing {
  label: string;
  values: Levels;
  preview: Schemas['PressPreview'];
}

let pressing: Pressing | null = null;
const watchers = new Set<() => void>();

function put(next: Pressing | null) {
  pressing = next;
  watchers.forEach((watch) => watch());
}

export const stopPressing = () => put(null);

export function usePressing(): Pressing | null {
  return useSyncExternalStore(
    (watch) => {
      watchers.add(watch);
      return () => watchers.delete(watch);
    },
    () => pressing,
  );
}

/** Shows what levels would do at the desk; they are set from the dialog. */
export async function press(label: string, values: Record<string, unknown>): Promise<void> {
  const levels = values as Levels;
  try {
    put({
      label,
      values: levels,
      preview: await taken(api.POST('/api/levels/preview', { body: { values: levels } })),
    });
  } catch (error) {
    complain(error);
  }
}

/** Sets them at the desk, each read back. */
export async function setLevels(values: Levels): Promise<boolean> {
  try {
    const [first, ...more] = (await taken(api.POST('/api/levels', { body: { values } }))).problems;
    if (first) tell({ kind: 'error', text: more.length > 0 ? `${first} (and ${more.length} more)` : first });
    refreshHeard();
    return !first;
  } catch (error) {
    complain(error);
    return false;
  }
}
