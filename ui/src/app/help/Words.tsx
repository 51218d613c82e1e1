import { lazy, Suspense } from 'react';
import { StateNote } from '../status/StateNote';

const Glossary = lazy(() => import('./Glossary'));

/** The glossary, which comes when it is opened. */
export const Words = () => (
  <Suspense fallback={<StateNote kind="waiting">Opening …</StateNote>}>
    <Glossary />
  </Suspense>
);
