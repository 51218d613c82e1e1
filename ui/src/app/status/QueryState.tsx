import type { UseQueryResult } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { StateNote } from './StateNote';

interface QueryStateProps<T> {
  /** What the application was asked. */
  of: Pick<UseQueryResult<T>, 'data' | 'isError' | 'error' | 'refetch'>;
  /** What is told until it answers. */
  waiting: string;
  children: (data: T) => ReactNode;
}

/** What the application answered; until then that it is awaited, and where it failed why, with a way to try again. What was
 *  answered before stays, and is called old. */
export function QueryState<T>({ of, waiting, children }: QueryStateProps<T>) {
  const again = () => void of.refetch();
  if (of.data === undefined)
    return of.isError ? (
      <StateNote kind="error" again={again}>
        {of.error?.message}
      </StateNote>
    ) : (
      <StateNote kind="waiting">{waiting}</StateNote>
    );
  return (
    <>
      {of.isError && (
        <StateNote kind="away" again={again}>
          {of.error?.message} This may be out of date.
        </StateNote>
      )}
      {children(of.data)}
    </>
  );
}
