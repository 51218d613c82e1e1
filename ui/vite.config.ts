import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

// A class carries its file's name, so that it is its own and can still be told apart in the browser.
const scopedName = (name: string, file: string) => `${/([^/]+)\.module\.css/.exec(file)?.[1]}-${name}`;

export default defineConfig({
  plugins: [react()],
  // The glossary stands in docs/, once for both.
  server: { fs: { allow: ['..'] } },
  css: { modules: { localsConvention: 'camelCaseOnly', generateScopedName: scopedName } },
  // The pages' security policy knows no inline script, so the preload helper must not be one.
  build: {
    modulePreload: { polyfill: false },
    chunkSizeWarningLimit: 800,
    assetsInlineLimit: 0,
    // Names stay out of what is sent; who looks for what failed in somebody's browser has the maps, which no page asks for.
    sourcemap: 'hidden',
  },
});
