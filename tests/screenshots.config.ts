import base from './playwright.config.ts';

/** Makes docs/screenshots from the demo data: npm run screenshots. */
export default { ...base, testDir: './screenshots' };
