import { defineConfig } from 'vitest/config';

export default defineConfig({
  esbuild: { jsx: 'automatic' },
  test: {
    environment: 'jsdom',
    globals: true,
    include: ['src/**/*.spec.{ts,tsx}'],
    setupFiles: ['./test/setup.ts'],
    coverage: { provider: 'istanbul', reporter: ['lcovonly'], include: ['src/**/*.tsx'] },
  },
});
