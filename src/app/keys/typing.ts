/** Fields into which nothing is typed: what is ticked, chosen or slid. */
const untyped = new Set(['checkbox', 'radio', 'range', 'button', 'submit'])

/** Whether keys go into a field now, and mean letters rather than commands. */
export const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable ||
    ['TEXTAREA', 'SELECT'].includes(target.tagName) ||
    (target instanceof HTMLInputElement && !untyped.has(target.type)))
