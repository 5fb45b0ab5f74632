/** Hooks and components that throw where no provider stands around them, and what stands there. */
interface ProviderNeed {
  module: string;
  names: ReadonlySet<string>;
  /** The first major of the package that throws. */
  since?: number;
  /** The first major that has it without one. */
  until?: number;
  /** What classes of Angular are given, where nothing around them but the test bed provides it. */
  injected?: true;
  /** Names of what provides it, wherever they are spoken of. */
  by: RegExp;
  /** What to put around, in words. */
  around: string;
}

const names = (text: string): ReadonlySet<string> => new Set(text.split(' '));

// react-router 6 and 7: `invariant(useInRouterContext())`.
const ROUTER: Omit<ProviderNeed, 'module'> = {
  names: names(
    'useHref useLocation useMatch useNavigate useNavigationType useResolvedPath useRoutes useSearchParams Link NavLink Navigate Routes',
  ),
  since: 6,
  by: /Router|RoutesStub/,
  around: 'MemoryRouter',
};

const NEEDS: readonly ProviderNeed[] = [
  { module: 'react-router', ...ROUTER },
  { module: 'react-router-dom', ...ROUTER },
  // next 13 to 16, dist/client/components/navigation.js and dist/client/router.js.
  { module: 'next/navigation', names: names('useRouter'), since: 13, by: /AppRouterContext/, around: '' },
  {
    module: 'next/router',
    names: names('useRouter'),
    since: 13,
    by: /RouterContext|next-router-mock/,
    around: '',
  },
  // react-redux 7 to 9, useReduxContext.
  {
    module: 'react-redux',
    names: names('useDispatch useSelector useStore'),
    since: 7,
    by: /Provider/,
    around: 'Provider with a store',
  },
  // react-query 3, @tanstack/react-query 4 and 5, useQueryClient.
  ...['react-query', '@tanstack/react-query'].map((module) => ({
    module,
    names: names(
      'useInfiniteQuery useIsFetching useIsMutating useMutation useQueries useQuery useQueryClient useSuspenseQuery',
    ),
    by: /QueryClientProvider/,
    around: 'QueryClientProvider',
  })),
  // react-intl 3 to 8, useIntl.
  {
    module: 'react-intl',
    names: names('useIntl FormattedMessage'),
    since: 3,
    by: /IntlProvider/,
    around: 'IntlProvider',
  },
  // @apollo/client 3 and 4, useApolloClient.
  ...['@apollo/client', '@apollo/client/react'].map((module) => ({
    module,
    names: names('useApolloClient useLazyQuery useMutation useQuery useSubscription'),
    since: 3,
    by: /ApolloProvider|MockedProvider|ApolloContext/,
    around: 'MockedProvider',
  })),
  // vue-i18n 9 to 11, useI18n.
  {
    module: 'vue-i18n',
    names: names('useI18n'),
    since: 9,
    by: /createI18n/,
    around: 'an app with the plugin of createI18n',
  },
  // pinia 2 and 3: what defineStore gives asks for the active pinia.
  {
    module: 'pinia',
    names: names('defineStore'),
    since: 2,
    by: /createPinia|createTestingPinia|setActivePinia|PiniaVuePlugin/,
    around: 'an app with the plugin of createPinia',
  },
  // @angular/common 15 to 20, http: 21 provides it at the root.
  {
    module: '@angular/common/http',
    names: names('HttpClient'),
    until: 21,
    injected: true,
    by: /provideHttpClient|HttpClient\w*Module/,
    around: 'provideHttpClient(), provideHttpClientTesting()',
  },
  // @angular/router 15 to 21: the route of an outlet.
  {
    module: '@angular/router',
    names: names('ActivatedRoute'),
    injected: true,
    by: /provideRouter|Router\w*Module|RouterTestingHarness/,
    around: 'provideRouter([])',
  },
  // @ngrx/store 15 to 21.
  {
    module: '@ngrx/store',
    names: names('Store'),
    injected: true,
    by: /provide(?:Mock)?Store|StoreModule/,
    around: 'provideMockStore()',
  },
];

/** What an export of a package needs around it; undefined for one that needs nothing, or that no table knows. */
export const providerFor = (module: string, name: string): ProviderNeed | undefined =>
  NEEDS.find((need) => need.module === module && need.names.has(name));
