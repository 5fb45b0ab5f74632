import type { ComponentRef } from '../../view.js';

// Components of packages that show what stands in them and nothing else, whatever they are given.
const PASSING: ReadonlyMap<string, readonly string[]> = new Map(
  Object.entries({
    react: 'Fragment Suspense StrictMode Profiler',
    'react/jsx-runtime': 'Fragment',
    'react/jsx-dev-runtime': 'Fragment',
    preact: 'Fragment',
    'react-router': 'MemoryRouter BrowserRouter HashRouter Router Switch Routes',
    'react-router-dom': 'MemoryRouter BrowserRouter HashRouter Router Switch Routes',
    'framer-motion': 'AnimatePresence MotionConfig LazyMotion LayoutGroup',
    'motion/react': 'AnimatePresence MotionConfig LazyMotion LayoutGroup',
    'react-redux': 'Provider',
    'mobx-react': 'Provider',
    jotai: 'Provider',
    urql: 'Provider',
    recoil: 'RecoilRoot',
    swr: 'SWRConfig',
    '@tanstack/react-query': 'QueryClientProvider',
    'react-query': 'QueryClientProvider',
    '@apollo/client': 'ApolloProvider',
    '@apollo/client/testing': 'MockedProvider',
    'react-intl': 'IntlProvider RawIntlProvider',
    'react-i18next': 'I18nextProvider',
    'react-helmet-async': 'HelmetProvider',
    'react-transition-group': 'Transition CSSTransition SwitchTransition TransitionGroup',
    'react-dnd': 'DndProvider',
    'react-hook-form': 'FormProvider',
    'styled-components': 'ThemeProvider StyleSheetManager',
    '@emotion/react': 'ThemeProvider CacheProvider',
    '@mui/material': 'ThemeProvider StyledEngineProvider',
    '@mui/material/styles': 'ThemeProvider StyledEngineProvider',
    '@mui/x-date-pickers': 'LocalizationProvider',
  }).map(([module, names]) => [module, names.split(' ')] as const),
);

// Components of packages that show nothing in the markup where they stand.
const SHOWING_NOTHING: ReadonlyMap<string, readonly string[]> = new Map(
  Object.entries({
    '@emotion/react': 'Global',
    'react-helmet': 'Helmet',
    'react-helmet-async': 'Helmet',
  }).map(([module, names]) => [module, names.split(' ')] as const),
);

/** Whether a component shows nothing where it stands, whatever it is given: by the package that it comes from. */
export const showsNothing = (ref: ComponentRef | undefined): boolean => isNamedIn(SHOWING_NOTHING, ref);

/** Whether a component shows what stands in it and nothing else: by the package that it comes from. */
export const passesOn = (ref: ComponentRef | undefined): boolean => isNamedIn(PASSING, ref);

const isNamedIn = (table: ReadonlyMap<string, readonly string[]>, ref: ComponentRef | undefined): boolean =>
  ref !== undefined &&
  'specifier' in ref &&
  ref.part === undefined &&
  (table.get(ref.specifier)?.includes(ref.name) ?? false);
