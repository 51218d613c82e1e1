import { defineConfig, mergeConfig } from 'vitest/config';
import interfaceConfig from './vite.config.ts';

export default mergeConfig(
  interfaceConfig,
  // Times after which a test is given up, not waits: a busy machine takes many times longer.
  defineConfig({
    test: {
      environment: 'jsdom',
      // All files in one page: what a page keeps is put back after each test (src/test/setup.ts), and nothing is mocked.
      isolate: false,
      // Style sheets as they are built, with their class names.
      css: { include: [/.+/], modules: { classNameStrategy: 'scoped' } },
      setupFiles: ['src/test/setup.ts'],
      testTimeout: 120_000,
      hookTimeout: 120_000,
    },
  }),
);
