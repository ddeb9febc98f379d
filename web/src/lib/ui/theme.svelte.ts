/** Light or dark: the device's choice until the coach picks one. */
class Theme {
  dark = $state(false);

  constructor() {
    const kept = localStorage.getItem('theme');
    const device = matchMedia('(prefers-color-scheme: dark)');
    this.dark = kept ? kept === 'dark' : device.matches;
    this.apply();
    // Many devices turn dark in the evening, with the app open.
    device.addEventListener('change', () => {
      if (localStorage.getItem('theme')) return;
      this.dark = device.matches;
      this.apply();
    });
  }

  toggle() {
    this.dark = !this.dark;
    localStorage.setItem('theme', this.dark ? 'dark' : 'light');
    this.apply();
  }

  private apply() {
    document.documentElement.dataset['theme'] = this.dark ? 'dark' : 'light';
  }
}

export const theme = new Theme();
