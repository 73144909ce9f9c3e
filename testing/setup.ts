import '@testing-library/jest-dom';

// Hands play in the sound's time, which is several times faster than the room's.
jest.setTimeout(240_000);
