module.exports = {
  testEnvironment: 'node',
  // Read through the sandbox, a global costs more than the arithmetic around it: without this the tests take five times as long.
  sandboxInjectedGlobals: ['Math', 'Number', 'Array', 'Object', 'Float64Array', 'Float32Array'],
  roots: ['<rootDir>/src', '<rootDir>/demo', '<rootDir>/bench'],
  testMatch: ['**/*.test.ts'],
  transform: {
    '^.+\\.[tj]sx?$': [
      '@swc/jest',
      {
        jsc: { parser: { syntax: 'typescript' }, target: 'es2022' },
        module: { type: 'commonjs', importInterop: 'node' },
      },
    ],
  },
  transformIgnorePatterns: ['/node_modules/(?!(pitchy|fft\\.js)/)'],
};
