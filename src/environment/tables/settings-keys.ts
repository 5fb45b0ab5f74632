// The keys that runners know, read from the code that they ship: every key that any version of the last years knows is here, so
// that only what no version knows is missing.

const words = (text: string): ReadonlySet<string> => new Set(text.split(' '));

/** jest 23 to 30: `jest-config`, its valid and its deprecated options. */
export const JEST_KEYS = words(
  'automock bail browser cache cacheDirectory changedFilesWithAncestor changedSince ci clearMocks collectCoverage collectCoverageFrom collectCoverageOnlyFrom coverageDirectory coveragePathIgnorePatterns coverageProvider coverageReporters coverageThreshold dependencyExtractor detectLeaks detectOpenHandles displayName errorOnDeprecated expand extensionsToTreatAsEsm extraGlobals fakeTimers filter forceCoverageMatch forceExit globalSetup globalTeardown globals haste id init injectGlobals json lastCommit listTests logHeapUsage mapCoverage maxConcurrency maxWorkers moduleDirectories moduleFileExtensions moduleLoader moduleNameMapper modulePathIgnorePatterns modulePaths name noStackTrace notify notifyMode onlyChanged onlyFailures openHandlesTimeout passWithNoTests preprocessorIgnorePatterns preset prettierPath projects randomize reporters resetMocks resetModules resolver restoreMocks rootDir roots runTestsByPath runner runtime sandboxInjectedGlobals scriptPreprocessor setupFiles setupFilesAfterEnv setupTestFrameworkScriptFile showSeed silent skipFilter skipNodeResolution slowTestThreshold snapshotFormat snapshotResolver snapshotSerializers testEnvironment testEnvironmentOptions testFailureExitCode testLocationInResults testMatch testNamePattern testPathDirs testPathIgnorePatterns testPathPattern testRegex testResultsProcessor testRunner testSequencer testTimeout testURL timers transform transformIgnorePatterns unmockedModulePathPatterns updateSnapshot useStderr verbose waitForUnhandledRejections watch watchAll watchPathIgnorePatterns watchPlugins watchman workerIdleMemoryLimit workerThreads',
);

/** jest 27 to 30, jest-config: the keys that it takes as a list alone, and stops at anything else. */
export const JEST_LISTS = words(
  'collectCoverageFrom coveragePathIgnorePatterns coverageReporters extensionsToTreatAsEsm forceCoverageMatch moduleDirectories moduleFileExtensions modulePathIgnorePatterns modulePaths projects reporters roots setupFiles setupFilesAfterEnv snapshotSerializers testPathIgnorePatterns transformIgnorePatterns unmockedModulePathPatterns watchPathIgnorePatterns watchPlugins',
);

/** vitest 0.34 to 4: the section `test`. */
export const TEST_SECTION_KEYS = words(
  'alias allowOnly api attachmentsDir bail benchmark browser cache chaiConfig changed clearMocks clearScreen cliExclude compare config coverage css dangerouslyIgnoreUnhandledErrors deps diff dir disableConsoleIntercept dom env environment environmentMatchGlobs environmentOptions exclude execArgv expandSnapshotDiff expect experimental experimentalVmThreads experimentalVmWorkerMemoryLimit extends fakeTimers fileParallelism forceRerunTriggers globalSetup globals hideSkippedTests hookTimeout include includeSource includeTaskLocation inspect inspectBrk inspector isolate logHeapUsage maxConcurrency maxThreads maxWorkers mergeReports minThreads minWorkers mockReset mode name onConsoleLog onStackTrace onUnhandledError open outputFile outputJson passWithNoTests pool poolMatchGlobs poolOptions printConsoleTrace project projects provide related reporters resolveSnapshotPath restoreMocks retry root runner sequence server setupFiles shard silent singleThread slowTestThreshold snapshotEnvironment snapshotFormat snapshotSerializers standalone tags teardownTimeout testNamePattern testTimeout testTransformMode threads typecheck ui uiBase unstubEnvs unstubGlobals update useAtomics vmMemoryLimit watch watchExclude watchTriggerPatterns workspace',
);

/** vite 2 to 7: what stands beside that section. */
export const BUNDLER_KEYS = words(
  'appType assetsInclude base build builder cacheDir clearScreen consumer css customLogger define dev envDir envPrefix environments esbuild experimental future html json keepProcessEnv legacy logLevel mode optimizeDeps oxc plugins preview publicDir resolve root server ssr test worker',
);

/** vitest 1 to 4: `--help`, each without what stands behind a dot; it stops at any other option. */
export const VITEST_OPTIONS = words(
  'allowOnly api attachmentsDir bail browser cache changed clearCache clearScreen color config configLoader coverage dangerouslyIgnoreUnhandledErrors detectAsyncLeaks diff dir disableConsoleIntercept dom environment exclude execArgv expandSnapshotDiff expect experimental fileParallelism globals help hideSkippedTests hookTimeout includeTaskLocation inspect inspectBrk isolate listTags logHeapUsage maxConcurrency maxWorkers mergeReports minWorkers mode open outputFile passWithNoTests pool poolOptions printConsoleTrace project reporter retry root run segfaultRetry sequence shard silent slowTestThreshold standalone strictTags tagsFilter teardownTimeout testNamePattern testTimeout typecheck ui update version vmMemoryLimit watch workspace',
);

/** What a key of one of these runners is called in the other. */
export const COUNTERPARTS: readonly { jest: string; section: string }[] = [
  { jest: 'testEnvironment', section: 'environment' },
  { jest: 'setupFilesAfterEnv', section: 'setupFiles' },
  { jest: 'moduleNameMapper', section: 'alias' },
  { jest: 'testMatch', section: 'include' },
  { jest: 'testPathIgnorePatterns', section: 'exclude' },
  { jest: 'resetMocks', section: 'mockReset' },
  { jest: 'collectCoverage', section: 'coverage.enabled' },
  { jest: 'collectCoverageFrom', section: 'coverage.include' },
  { jest: 'coverageThreshold', section: 'coverage.thresholds' },
  { jest: 'coverageReporters', section: 'coverage.reporter' },
  { jest: 'injectGlobals', section: 'globals' },
  { jest: 'rootDir', section: 'root' },
];

/** mocha 8 to 12: lib/cli/run-option-metadata.js and the options of lib/cli/run.js. */
export const MOCHA_KEYS = words(
  'allow-uncaught allowUncaught async-only asyncOnly bail check-leaks checkLeaks color colors config delay diff dry-run dryRun exclude exit experimental-loader extension extensions fail-zero failZero fgrep file forbid-only forbidOnly forbid-pending forbidPending full-trace fullTrace global globals grep ignore import inline-diffs inlineDiffs inspect invert jobs loader node-option opts package parallel pass-on-failing-test-suite posix-exit-codes recursive reporter reporter-option reporter-options reporterOption reporterOptions require retries slow sort spec timeout timeouts trace-warnings ui v8-stack-trace-limit watch watch-files watch-ignore watchFiles watchIgnore $schema extends',
);

/** @angular/build 20 to 22, schema.json of unit-test and karma. */
export const BUILDER_KEYS = words(
  'aot assets browsers buildTarget codeCoverage codeCoverageExclude codeCoverageReporters coverage coverageExclude coverageInclude coverageReporters coverageThresholds coverageWatermarks debug define dumpVirtualFiles exclude externalDependencies fileReplacements filter headless include inlineStyleLanguage isolate karmaConfig listTests loader main outputFile poll polyfills preserveSymlinks progress providersFile quiet reporters reportersOptions runner runnerConfig scripts setupFiles sourceMap stylePreprocessorOptions styles tsConfig ui update watch webWorkerTsConfig',
);

/** react-scripts 4 and 5, createJestConfig.js: the keys of its runner that a manifest may set. */
export const WRAPPED_KEYS = words(
  'clearMocks collectCoverageFrom coveragePathIgnorePatterns coverageReporters coverageThreshold displayName extraGlobals globalSetup globalTeardown moduleNameMapper resetMocks resetModules restoreMocks snapshotSerializers testMatch transform transformIgnorePatterns watchPathIgnorePatterns',
);
