import type { Directive } from 'vue';

/**
 * The field that is written into first has the focus as soon as its dialog is there, so that the next key is a letter in
 * it. Element Plus's own `autofocus` is lost to the dialog's focus trap.
 */
export const vFocus: Directive<HTMLElement> = {
  mounted(el) {
    const field = el.matches('input, textarea')
      ? el
      : el.querySelector<HTMLElement>('input:not([type=hidden]), textarea');
    field?.focus();
    // The trap of a dialog takes the focus a moment later.
    requestAnimationFrame(() => field?.isConnected && field.focus());
  },
};
