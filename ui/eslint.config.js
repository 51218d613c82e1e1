import js from '@eslint/js';
import hooks from 'eslint-plugin-react-hooks';
import { defineConfig, globalIgnores } from 'eslint/config';
import ts from 'typescript-eslint';

export default defineConfig(
  globalIgnores(['dist', 'node_modules', 'src/api/schema.d.ts']),
  js.configs.recommended,
  ts.configs.strict,
  hooks.configs.flat.recommended,
  {
    rules: {
      // No compiler here that would memoise what a library returns.
      'react-hooks/incompatible-library': 'off',
      // Every request goes through the typed client.
      'no-restricted-globals': ['error', { name: 'fetch', message: 'Use src/api/client.ts.' }],
    },
  },
);
