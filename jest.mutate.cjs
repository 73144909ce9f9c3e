/** What tells a wrong rule of the core: its own tests, without interface, workers of the store and the door. */
const { projects } = require('./jest.config.cjs');
const [{ displayName: _name, ...core }] = projects;

module.exports = {
  ...core,
  testTimeout: 60_000,
  testPathIgnorePatterns: [
    '/node_modules/',
    '<rootDir>/src/app/',
    '<rootDir>/src/door/',
    '<rootDir>/bench/',
    '<rootDir>/src/core/causes/hunt',
  ],
};
