/** A chosen file as it is sent: its name and its bytes in base64. */
export async function sent(file: File): Promise<{ name: string; content: string }> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  let text = '';
  for (let i = 0; i < bytes.length; i += 8192) text += String.fromCharCode(...bytes.subarray(i, i + 8192));
  return { name: file.name, content: btoa(text) };
}
