import createCache from '@emotion/cache';
import { CacheProvider } from '@emotion/react';
import { createTheme, ThemeProvider, useColorScheme } from '@mui/material/styles';
import type { ReactNode } from 'react';
import { type Scheme, schemes } from './tokens';

const KEY = 'loomshuttle.theme';
// As it was kept by earlier versions.
const EARLIER: Record<string, Scheme> = { daylight: 'light', blackout: 'dark' };

// Emotion's style elements carry the nonce that the page came with; the security policy allows no others.
const nonce = document.querySelector<HTMLMetaElement>('meta[name=style-nonce]')?.content;
const cache = createCache({ key: 'loom', nonce, prepend: true });

/** What MUI's parts are drawn with. The scheme's own colours stand beside, so that style sheets know them as variables. */
function scheme(name: Scheme) {
  const c = schemes[name];
  return {
    palette: {
      primary: { main: c.action, contrastText: c.onAction },
      warning: { main: c.lookEdge, contrastText: name === 'light' ? c.text : c.ground },
      error: { main: c.stop, contrastText: name === 'light' ? '#FFFFFF' : c.ground },
      success: { main: c.well },
      background: { default: c.ground, paper: c.raised },
      text: { primary: c.text, secondary: c.quiet },
      divider: c.rule,
    },
    ...c,
  };
}

const theme = createTheme({
  cssVariables: { cssVarPrefix: 'loom', colorSchemeSelector: 'data-theme' },
  colorSchemes: { light: scheme('light'), dark: scheme('dark') },
  shape: { borderRadius: 6 },
  typography: {
    fontFamily: '"Atkinson Hyperlegible Next", sans-serif',
    fontSize: 14,
    button: { textTransform: 'none', fontWeight: 600 },
  },
  components: {
    MuiButton: { defaultProps: { disableElevation: true }, styleOverrides: { root: { minHeight: 34 } } },
    MuiPaper: { styleOverrides: { root: { backgroundImage: 'none' } } },
    MuiButtonBase: { defaultProps: { disableRipple: true } },
  },
});

/** Which theme is on, and the way to choose another one. */
export function useScheme(): { scheme: Scheme; choose: (scheme: Scheme) => void } {
  const { mode, setMode } = useColorScheme();
  return { scheme: mode === 'dark' ? 'dark' : 'light', choose: setMode };
}

/** Daylight unless the person chose Blackout; kept in this browser. */
export function Look({ children }: { children: ReactNode }) {
  return (
    <CacheProvider value={cache}>
      <ThemeProvider theme={theme} defaultMode="light" modeStorageKey={KEY}>
        {children}
      </ThemeProvider>
    </CacheProvider>
  );
}

// Before anything is drawn, so that a dark stage sees no light page first.
const kept = localStorage.getItem(KEY) ?? '';
if (EARLIER[kept]) localStorage.setItem(KEY, EARLIER[kept]);
document.documentElement.dataset.theme = (EARLIER[kept] ?? kept) === 'dark' ? 'dark' : 'light';
