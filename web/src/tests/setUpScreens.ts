import 'fake-indexeddb/auto';
import { cleanup } from '@testing-library/react';
import { afterEach } from 'vitest';
import { bringSentences, bringTexts, speakIn, TEXT_PARTS } from '../ui/words';

// A test says which language it speaks at once, and not when its texts come.
await bringSentences();
for (const language of ['es', 'en'] as const) {
  await speakIn(language);
  for (const part of TEXT_PARTS) await bringTexts(part);
}

// Here and not beside the tests: this runs for each file of them, though their modules are loaded once.
// What a dialog left at the edges of the page to catch the focus goes too: the next test begins on an empty page.
afterEach(() => {
  cleanup();
  document.body.replaceChildren();
});

// What Chromium has and the simulated page has not; nothing that a test looks at.
globalThis.ResizeObserver ??= class {
  observe() {}
  unobserve() {}
  disconnect() {}
};
Element.prototype.scrollIntoView ??= () => {};
Element.prototype.hasPointerCapture ??= () => false;
Element.prototype.setPointerCapture ??= () => {};
Element.prototype.releasePointerCapture ??= () => {};
