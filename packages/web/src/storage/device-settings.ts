/**
 * Small settings of this device, such as light or dark: the one doorway to `localStorage`. A browser that keeps nothing, or has
 * no room, is one without settings.
 */
export const deviceSettings = {
  read: (name: string): string | null => {
    try {
      return localStorage.getItem(name);
    } catch {
      return null;
    }
  },
  write: (name: string, value: string): void => {
    try {
      localStorage.setItem(name, value);
    } catch {
      // It holds until the page is left.
    }
  },
};
