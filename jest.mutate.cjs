/** What tells a wrong rule: the tests of its room, without the interface's. */
const { projects } = require('./jest.config.cjs');
const core = { ...projects[0] };
delete core.displayName;

module.exports = {
  ...core,
  testTimeout: 60_000,
  // A rule is held by the tests of its room.
  roots: [`<rootDir>/${process.env.MUTATED ?? 'src/core'}`],
};
