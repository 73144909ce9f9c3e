// Property tests try the same cases in every run: none passes or fails by chance. To look further, run one with another seed.
const fc = require('../node_modules/fast-check/lib/cjs/fast-check.js');

fc.configureGlobal({ seed: Number(process.env.PROPERTIES_SEED ?? 20261130) });
module.exports = fc;
