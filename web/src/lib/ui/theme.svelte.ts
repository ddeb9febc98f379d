/** Light or dark: the device's choice until the coach picks one. */
class Theme {
  dark = $state(false);

  constructor() {
    const kept = localStorage.getItem('theme');
    this.dark = kept ? kept === 'dark' : matchMedia('(prefers-color-scheme: dark)').matches;
    this.apply();
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
