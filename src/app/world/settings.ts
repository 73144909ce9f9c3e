import localforage from 'localforage';

/** Small settings of this device (the chart's colours, the chosen input): not part of the log. */
export const settings = localforage.createInstance({ name: 'slow-anchor-settings', storeName: 'settings' });
