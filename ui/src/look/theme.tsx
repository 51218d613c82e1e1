import createCache from '@emotion/cache';
import { CacheProvider } from '@emotion/react';
import { createTheme, ThemeProvider } from '@mui/material/styles';
import { createContext, type ReactNode, use, useEffect, useMemo, useState } from 'react';
import { type ThemeName, themes } from './tokens';

const KEY = 'loomshuttle.theme';

const Chosen = createContext<{ name: ThemeName; choose: (name: ThemeName) => void }>({
  name: 'daylight',
  choose: () => undefined,
});

export const useThemeName = () => use(Chosen);

// Emotion's style elements carry the nonce that the page came with; the security policy allows no others.
const nonce = document.querySelector<HTMLMetaElement>('meta[name=style-nonce]')?.content;
const cache = createCache({ key: 'loom', nonce, prepend: true });

function muiTheme(name: ThemeName) {
  const c = themes[name];
  return createTheme({
    palette: {
      mode: name === 'daylight' ? 'light' : 'dark',
      primary: { main: c.action, contrastText: c.onAction },
      warning: { main: c.lookEdge, contrastText: name === 'daylight' ? c.text : c.ground },
      error: { main: c.stop, contrastText: name === 'daylight' ? '#FFFFFF' : c.ground },
      success: { main: c.well },
      background: { default: c.ground, paper: c.raised },
      text: { primary: c.text, secondary: c.quiet },
      divider: c.rule,
    },
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
}

/** Daylight unless the person chose Blackout; kept in this browser. */
export function Look({ children }: { children: ReactNode }) {
  const [name, setName] = useState<ThemeName>(
    localStorage.getItem(KEY) === 'blackout' ? 'blackout' : 'daylight',
  );
  const theme = useMemo(() => muiTheme(name), [name]);

  useEffect(() => {
    const root = document.documentElement;
    root.dataset.theme = name;
    for (const [key, value] of Object.entries(themes[name])) root.style.setProperty(`--${key}`, value);
  }, [name]);

  const choose = (next: ThemeName) => {
    localStorage.setItem(KEY, next);
    setName(next);
  };
  return (
    <CacheProvider value={cache}>
      <ThemeProvider theme={theme}>
        <Chosen value={{ name, choose }}>{children}</Chosen>
      </ThemeProvider>
    </CacheProvider>
  );
}
