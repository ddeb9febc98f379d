/** Questions of which only the newest counts: an older one's answer may come later, and would take back what is newer. */
export class Latest {
  private asked = 0;

  /** A question's answer; null where another was asked meanwhile. */
  async of<T>(question: Promise<T>): Promise<T | null> {
    const mine = ++this.asked;
    const answer = await question;
    return mine === this.asked ? answer : null;
  }
}
