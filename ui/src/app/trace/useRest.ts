import { useEffect, useState } from 'react';

const REST_MS = 120;

/** A value once it has not changed for a moment, so that nothing is asked for while a cursor runs. */
export function useRest<T>(value: T): T {
  const [rested, setRested] = useState(value);
  useEffect(() => {
    const later = setTimeout(() => setRested(value), REST_MS);
    return () => clearTimeout(later);
  }, [value]);
  return rested;
}
