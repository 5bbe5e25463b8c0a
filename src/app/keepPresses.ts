/**
 * Runs in the page before the framework does: what is drawn can be pressed a moment before it answers. A press of a button,
 * a list or a box that doesn't answer yet is kept, and done once it does, instead of being lost; so is a key that the page
 * has a use for, and the sending of a form. Links and text fields work without any script.
 */
function keepPresses(): void {
  const FRAMES = 1800;
  const OPENING_FRAMES = 300;
  const PRESSED = 'button, [role="combobox"], [role="switch"], input[type="checkbox"]';
  const FIELD = 'input:not([type="checkbox"]), textarea, select, [contenteditable="true"]';
  const MOVES = /^(Arrow(Up|Down|Left|Right)|Home|End|PageUp|PageDown|Escape)$/;
  const awake = () => document.documentElement.dataset.awake === 'yes';
  /** The framework leaves its mark on each element that it has taken over. */
  const answers = (element: Element) => Object.keys(element).some((key) => key.startsWith('__reactProps$'));
  const soon = (work: () => void) =>
    'requestIdleCallback' in window ? requestIdleCallback(work, { timeout: 2000 }) : setTimeout(work, 100);
  const whenItAnswers = (element: HTMLElement, work: () => void, frames: number): void => {
    if (!element.isConnected || frames === 0) return;
    // Marked is not yet answering: it does once the framework has nothing left to take over.
    if (answers(element) && awake()) soon(work);
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
  // Without its script a form would go to the address of the page, with what was typed in it.
  document.addEventListener(
    'submit',
    (event) => {
      if (!(event.target instanceof HTMLFormElement) || answers(event.target)) return;
      const form = event.target;
      event.preventDefault();
      event.stopImmediatePropagation();
      whenItAnswers(form, () => form.requestSubmit(), FRAMES);
    },
    true,
  );

  /** Keys pressed before the page answers, in their order. */
  const kept: KeyboardEvent[] = [];
  const inField = () => document.activeElement?.matches(FIELD) ?? false;
  /** Whether the finder was asked for and has not come: what is typed meanwhile is meant for it. */
  let opening = false;
  const open = (frames: number): void => {
    opening = frames > 0 && !inField();
    if (opening) requestAnimationFrame(() => open(frames - 1));
  };
  const next = (frames: number): void => {
    const event = kept[0];
    if (!event || frames === 0) return void kept.splice(0);
    if (!awake() || opening) return void requestAnimationFrame(() => next(frames - 1));
    soon(() => {
      const at = document.activeElement ?? document.body;
      const { key, code, altKey, ctrlKey, metaKey, shiftKey } = event;
      const again = { key, code, altKey, ctrlKey, metaKey, shiftKey, bubbles: true, cancelable: true };
      const taken = !at.dispatchEvent(new KeyboardEvent('keydown', again));
      // A key that is told again writes nothing by itself.
      if (!taken && key.length === 1 && !ctrlKey && !metaKey && at.matches(FIELD))
        document.execCommand('insertText', false, key);
      if (!taken && key === 'Enter' && at instanceof HTMLElement && at.matches(`a, ${PRESSED}`)) at.click();
      if (ctrlKey || metaKey) open(OPENING_FRAMES);
      kept.shift();
      requestAnimationFrame(() => next(frames));
    });
  };
  document.addEventListener(
    'keydown',
    (event) => {
      // Once the page answers, only what would overtake an earlier key waits behind it.
      if (!event.isTrusted) return;
      const { key, altKey } = event;
      const command = event.ctrlKey || event.metaKey;
      if (awake() && kept.length === 0 && !opening) {
        if (command && key.toLowerCase() === 'k' && !inField()) open(OPENING_FRAMES);
        return;
      }
      // Other commands are the browser's own.
      const has = key.length === 1 || MOVES.test(key) || (key === 'Enter' && (kept.length > 0 || opening));
      if (command ? key.toLowerCase() !== 'k' : !has) return;
      // Text goes into a field, and the cursor moves in it, without any script.
      if (inField() && !command && !altKey && kept.length === 0) return;
      // The space bar presses a button, which is kept as a press; and the page scrolls without any script.
      const scrolls = MOVES.test(key) && document.activeElement === document.body;
      if ((key === ' ' || scrolls) && kept.length === 0) return;
      event.preventDefault();
      event.stopImmediatePropagation();
      kept.push(event);
      if (kept.length === 1) next(FRAMES);
    },
    true,
  );
}

/** The text of that script. */
export const KEEP_PRESSES = `(${keepPresses.toString()})()`;
