import { expect, test } from 'vitest';
import { Latest } from './latest';

test('an older answer that comes later counts for nothing', async () => {
  const latest = new Latest();
  const answers: ((value: string) => void)[] = [];
  const question = () => latest.of(new Promise<string>((answer) => answers.push(answer)));
  const [older, newer] = [question(), question()];
  answers[1]?.('newer');
  expect(await newer).toBe('newer');
  answers[0]?.('older');
  expect(await older).toBeNull();
  const next = question();
  answers[2]?.('next');
  expect(await next).toBe('next');
});
