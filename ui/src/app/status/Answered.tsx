import type { UseQueryResult } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { Told } from './Told';

interface AnsweredProps<T> {
  /** What the application was asked. */
  of: Pick<UseQueryResult<T>, 'data' | 'isError' | 'error' | 'refetch'>;
  /** What is told until it answers. */
  waiting: string;
  children: (data: T) => ReactNode;
}

/** What the application answered; until then that it is awaited, and where it failed why, with a way to try again. What was
 *  answered before stays, and is called old. */
export function Answered<T>({ of, waiting, children }: AnsweredProps<T>) {
  const again = () => void of.refetch();
  if (of.data === undefined)
    return of.isError ? (
      <Told kind="error" again={again}>
        {of.error?.message}
      </Told>
    ) : (
      <Told kind="waiting">{waiting}</Told>
    );
  return (
    <>
      {of.isError && (
        <Told kind="away" again={again}>
          {of.error?.message} What stands here may be old.
        </Told>
      )}
      {children(of.data)}
    </>
  );
}
