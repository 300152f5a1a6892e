import type { HelpTexts } from './helpTexts';

/** What is pointed at on a screen, with what is said of it. */
type Tour = NonNullable<HelpTexts['screens']['day']['tour']>;

/** Shows somebody round a screen, one thing after the other. What is not on the screen now is left out. */
export async function showRound(tour: Tour, words: { next: string; prev: string; done: string }): Promise<void> {
  const [{ driver }] = await Promise.all([import('driver.js'), import('driver.js/dist/driver.css')]);
  // The sheet that it was asked for on has to be gone first.
  await new Promise((later) => setTimeout(later, 50));
  const steps = tour
    .filter(({ at }) => document.querySelector(at) !== null)
    .map(({ at, text }) => ({ element: at, popover: { description: text } }));
  driver({
    steps,
    showProgress: true,
    progressText: '{{current}} / {{total}}',
    nextBtnText: words.next,
    prevBtnText: words.prev,
    doneBtnText: words.done,
    popoverClass: 'tour',
    overlayColor: '#000',
    overlayOpacity: 0.55,
    animate: false,
  }).drive();
}
