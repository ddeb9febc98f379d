/** A keyboard shortcut: how it is shown, what it does, and which keys call it. */
export type Shortcut = { keys: string[]; shown: string; does: string; run: () => void };

const typing = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  (target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName));

const inOverlay = () => document.querySelector('[role="dialog"], [data-select-content]') !== null;

/** `Shift+ArrowLeft`, `Control+z`, `a`: the way `keys` are written. */
export function keyOf(event: KeyboardEvent): string {
  const held = [event.ctrlKey || event.metaKey ? 'Control+' : '', event.altKey ? 'Alt+' : ''].join('');
  const shift = event.shiftKey && event.key.length > 1 ? 'Shift+' : '';
  return held + shift + event.key;
}

/** A window handler for a list of shortcuts; leaves typing, open lists and dialogs alone. */
export function handler(shortcuts: () => Shortcut[]): (event: KeyboardEvent) => void {
  return (event) => {
    if (event.defaultPrevented || typing(event.target) || inOverlay()) return;
    const key = keyOf(event);
    const found = shortcuts().find((s) => s.keys.includes(key));
    if (!found) return;
    // A focused button keeps its own Enter and space.
    const button = event.target instanceof HTMLElement && event.target.closest('button, a');
    if (button && (key === 'Enter' || key === ' ') && !button.hasAttribute('data-shortcut-through')) return;
    event.preventDefault();
    found.run();
  };
}
