import { api, ask, type Answer, type ReadFile } from '../api/client';

type What = 'place' | 'clients' | 'measurement' | 'program';

/** A chosen file as a form is sent: the body, and that it goes as it is. */
export function asForm(file: File, encoding = '') {
  const form = new FormData();
  form.append('file', file);
  if (encoding) form.append('encoding', encoding);
  return { body: form as never, bodySerializer: (sent: unknown) => sent as FormData };
}

/** What a chosen file holds; nothing is stored. Its encoding is told from its bytes, or was said. */
export function readFile(what: What, file: File, encoding = ''): Promise<Answer<ReadFile>> {
  return ask(api.POST('/api/files/{what}', { params: { path: { what } }, ...asForm(file, encoding) }));
}
