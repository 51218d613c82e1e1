import '@fontsource/atkinson-hyperlegible-next/400.css';
import '@fontsource/atkinson-hyperlegible-next/600.css';
import './look/base.css';
import { QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { hearShow } from './api/edits';
import { connectLive } from './api/live';
import { askAgain, queries, refresh, refreshHeard, refreshTakes } from './api/queries';
import { Boundary } from './app/shell/Boundary';
import { Shell } from './app/shell/Shell';
import { Look } from './look/theme';

connectLive(
  (now) => void hearShow(now),
  refreshTakes,
  () => void refresh('roll', 'stage'),
  askAgain,
  refreshHeard,
  () => void refresh('songs', 'song', 'playback', 'exports'),
);

const root = document.getElementById('root');
if (root)
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <Look>
          <Boundary what="The page">
            <Shell />
          </Boundary>
        </Look>
      </QueryClientProvider>
    </StrictMode>,
  );
