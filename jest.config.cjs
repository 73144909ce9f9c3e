const parser = (tsx) => [
  '@swc/jest',
  {
    jsc: {
      parser: { syntax: 'typescript', tsx },
      target: 'es2022',
      transform: { react: { runtime: 'automatic' } },
    },
    module: { type: 'commonjs', importInterop: 'node' },
  },
];
const common = {
  // Read through the sandbox, a global costs more than the arithmetic around it: without this the tests take five times as long.
  sandboxInjectedGlobals: ['Math', 'Number', 'Array', 'Object', 'Float64Array', 'Float32Array'],
  // What only a bundler knows.
  moduleNameMapper: {
    '\\?url$|\\.css$|^plotly\\.js': '<rootDir>/testing/nothing.cjs',
    '^fast-check$': '<rootDir>/testing/properties.cjs',
  },
  transform: { '^.+\\.tsx$': parser(true), '^.+\\.m?[jt]s$': parser(false) },
  transformIgnorePatterns: ['/node_modules/(?!(pitchy|fft\\.js|d3-.*|internmap)/)'],
};

module.exports = {
  // A busy machine is slow: no test is ended by the time it takes.
  testTimeout: 300_000,
  projects: [
    {
      ...common,
      displayName: 'core',
      testEnvironment: 'node',
      roots: ['<rootDir>/src', '<rootDir>/demo', '<rootDir>/bench', '<rootDir>/testing'],
      testMatch: ['**/*.test.ts'],
    },
    // The interface without a browser.
    {
      ...common,
      displayName: 'app',
      // The development runtime notes where every element was made: a sixth of the time, for nobody.
      moduleNameMapper: {
        ...common.moduleNameMapper,
        '^react/jsx-runtime$': '<rootDir>/node_modules/react/cjs/react-jsx-runtime.production.js',
      },
      testEnvironment: '<rootDir>/testing/page.cjs',
      testEnvironmentOptions: { customExportConditions: ['node', 'node-addons'] },
      roots: ['<rootDir>/src/app'],
      testMatch: ['**/*.test.tsx'],
      setupFilesAfterEnv: ['<rootDir>/testing/setup.ts'],
    },
  ],
};
