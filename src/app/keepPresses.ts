/**
 * Runs in the page before the framework does: what is drawn can be pressed a moment before it answers. A press of a button,
 * a list or a box that doesn't answer yet is kept, and done once it does, instead of being lost. Links work without any
 * script.
 */
function keepPresses(): void {
  const FRAMES = 1800;
  const PRESSED = 'button, [role="combobox"], [role="switch"], input[type="checkbox"]';
  /** The framework leaves its mark on each element that it has taken over. */
  const answers = (element: Element) => Object.keys(element).some((key) => key.startsWith('__reactProps$'));
  const soon = (work: () => void) =>
    'requestIdleCallback' in window ? requestIdleCallback(work, { timeout: 2000 }) : setTimeout(work, 100);
  const whenItAnswers = (element: HTMLElement, work: () => void, frames: number): void => {
    if (!element.isConnected || frames === 0) return;
    // Marked is not yet answering: it does once the framework has nothing left to take over.
    if (answers(element) && document.documentElement.dataset.awake === 'yes') soon(work);
    else requestAnimationFrame(() => whenItAnswers(element, work, frames - 1));
  };
  document.addEventListener(
    'click',
    (event) => {
      if (!event.isTrusted || !(event.target instanceof Element)) return;
      const pressed = event.target.closest<HTMLElement>(PRESSED);
      if (!pressed || answers(pressed)) return;
      if (pressed instanceof HTMLInputElement) {
        // A box is ticked at once; the page hears of it later, as if it were ticked then.
        const { checked } = pressed;
        const tick = () => {
          pressed.checked = !checked;
          pressed.click();
        };
        return whenItAnswers(pressed, tick, FRAMES);
      }
      event.preventDefault();
      event.stopImmediatePropagation();
      whenItAnswers(pressed, () => pressed.click(), FRAMES);
    },
    true,
  );
}

/** The text of that script. */
export const KEEP_PRESSES = `(${keepPresses.toString()})()`;
