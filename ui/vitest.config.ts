import { defineConfig, mergeConfig } from 'vitest/config';
import interfaceConfig from './vite.config';

export default mergeConfig(
  interfaceConfig,
  defineConfig({ test: { environment: 'jsdom', setupFiles: ['src/test/setup.ts'] } }),
);
