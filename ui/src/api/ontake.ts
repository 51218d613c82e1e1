import { useSyncExternalStore } from 'react';
import { Refused } from './client';

/** What becomes of channels on take before something else is done: they return to the stage, or stay. */
export type OnTake = 'stage' | 'keep';

interface Question {
  text: string;
  answer: (choice: OnTake | null) => void;
}

let question: Question | null = null;
const watchers = new Set<() => void>();

function put(next: Question | null) {
  question = next;
  watchers.forEach((watch) => watch());
}

const ask = (text: string) =>
  new Promise<OnTake | null>((answer) => {
    question?.answer(null);
    put({
      text,
      answer: (choice) => {
        put(null);
        answer(choice);
      },
    });
  });

/** The question that waits for an answer. */
export const useOnTakeQuestion = () =>
  useSyncExternalStore(
    (watch) => {
      watchers.add(watch);
      return () => watchers.delete(watch);
    },
    () => question,
  );

/**
 * Does something that would leave channels on take without a word; where there are any, asks first.
 * Gives undefined where the answer was to do nothing.
 */
export async function mindingTake<T>(run: (onTake?: OnTake) => Promise<T>): Promise<T | undefined> {
  try {
    return await run();
  } catch (error) {
    if (!(error instanceof Refused && error.where === 'on_take')) throw error;
    const choice = await ask(error.message);
    return choice === null ? undefined : run(choice);
  }
}
