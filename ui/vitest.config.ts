import { defineConfig, mergeConfig } from 'vitest/config';
import interfaceConfig from './vite.config';

export default mergeConfig(
  interfaceConfig,
  // Times after which a test is given up, not waits: a busy machine takes many times longer.
  defineConfig({
    test: {
      environment: 'jsdom',
      setupFiles: ['src/test/setup.ts'],
      testTimeout: 120_000,
      hookTimeout: 120_000,
    },
  }),
);
