// Plugins of the bundler, by what they may do to a run. Searched for in the shipped code of their versions of November
// 2026: none touches the settings of specs; those of the first list resolve no names but those of their own helpers.

/** Plugins that transform files, and neither resolve names, nor make modules up, nor touch the settings of specs. */
const TRANSFORMING: ReadonlySet<string> = new Set([
  '@vitejs/plugin-react',
  '@vitejs/plugin-react-swc',
  '@vitejs/plugin-vue',
  '@vitejs/plugin-vue-jsx',
  '@vitejs/plugin-vue2',
  '@vitejs/plugin-legacy',
  '@preact/preset-vite',
  '@tailwindcss/vite',
  'rollup-plugin-visualizer',
  'unplugin-vue',
  'vite-plugin-checker',
  'vite-plugin-css-injected-by-js',
  'vite-plugin-dts',
  'vite-plugin-inspect',
  'vite-plugin-static-copy',
  'vite-plugin-svgr',
  'vite-plugin-vue-devtools',
  'vite-plugin-vue2',
  'vite-svg-loader',
]);

/** Plugins that resolve names or make modules up, and leave the settings of specs alone. */
const RESOLVING: ReadonlySet<string> = new Set([
  'vite-tsconfig-paths',
  'vite-plugin-node-polyfills',
  'vite-plugin-pwa',
  'unplugin-icons/vite',
  'unplugin-vue-components/vite',
  'unplugin-vue-router/vite',
  '@tanstack/router-plugin/vite',
]);

// @preact/preset-vite 2: `resolve.alias`, of packages that another one stands in for.
const STANDS_FOR: ReadonlyMap<string, string> = new Map([['@preact/preset-vite', '^react(?:-dom)?(?:/|$)']]);

/** The pattern of the imports that a plugin gives another package to. */
export const standsFor = (plugin: string): string[] => {
  const pattern = STANDS_FOR.get(plugin);
  return pattern === undefined ? [] : [pattern];
};

/** Whether a plugin surely resolves no names by itself, but for those that it stands for. */
export const leavesNames = (plugin: string): boolean => TRANSFORMING.has(plugin);

/** Whether a plugin surely sets nothing for specs: any other may switch globals on, or load set-up files. */
export const leavesSettings = (plugin: string): boolean => TRANSFORMING.has(plugin) || RESOLVING.has(plugin);

/** Plugins that make single-file components something that runs. */
export const VUE_PLUGINS: ReadonlySet<string> = new Set([
  '@vitejs/plugin-vue',
  '@vitejs/plugin-vue2',
  'vite-plugin-vue2',
  'unplugin-vue',
]);
