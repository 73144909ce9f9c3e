export { instrumentStory, type InstrumentStory, type StoryPoint, type StoryWish, type StringStory } from './story';
export { fallsByAge, learnedPrior, type LearnedPrior } from './learning';
