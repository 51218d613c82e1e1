import { useSyncExternalStore } from 'react';
import type { Preview } from './client';
import { complain, previewStep, type StepKind, type StepOptions, stepUnless } from './edits';

// The step that is being looked at, for the one preview dialog of the page.
export interface Looking {
  kind: StepKind;
  options: StepOptions;
  preview: Preview;
  /** Other ways to do it: words and the options that make it. */
  ways: { label: string; options: StepOptions }[];
  onDone?: () => void;
  /** Why it is looked at once more, in words. */
  since?: string;
}

let looking: Looking | null = null;
const watchers = new Set<() => void>();

function put(next: Looking | null) {
  looking = next;
  watchers.forEach((watch) => watch());
}

export const stopLooking = () => put(null);

export function useLooking(): Looking | null {
  return useSyncExternalStore(
    (watch) => {
      watchers.add(watch);
      return () => watchers.delete(watch);
    },
    () => looking,
  );
}

interface More {
  ways?: Looking['ways'];
  onDone?: () => void;
  since?: string;
}

/** Shows what a step would do; it is taken from the dialog. */
export async function lookAt(kind: StepKind, options: StepOptions = {}, more: More = {}): Promise<boolean> {
  try {
    const preview = await previewStep(kind, options);
    put(shownWith(kind, options, preview, more));
    return true;
  } catch (error) {
    complain(error);
    return false;
  }
}

const shownWith = (kind: StepKind, options: StepOptions, preview: Preview, more: More): Looking => ({
  kind,
  options,
  preview,
  ways: more.ways ?? [],
  ...(more.onDone ? { onDone: more.onDone } : {}),
  ...(more.since ? { since: more.since } : {}),
});

/** Takes a step at once when nothing speaks against it; otherwise shows it first. */
export async function takeCarefully(
  kind: StepKind,
  options: StepOptions,
  asks: (preview: Preview) => boolean,
  more: More = {},
): Promise<boolean> {
  try {
    const { shown: preview, done } = await stepUnless(kind, options, asks);
    if (done !== null) return done;
    put(shownWith(kind, options, preview, more));
    return true;
  } catch (error) {
    complain(error);
    return false;
  }
}
