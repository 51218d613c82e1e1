import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [react()],
  // The pages' security policy knows no inline script, so the preload helper must not be one.
  build: { modulePreload: { polyfill: false }, chunkSizeWarningLimit: 800, assetsInlineLimit: 0 },
});
