module.exports = {
  testEnvironment: 'node',
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
