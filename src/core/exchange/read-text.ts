/** What is said of a file that cannot be read at all. */
export const UNREADABLE = 'This could not be read: it is a folder, or the file is not there any more.';

/** What a chosen file says, or why it cannot be read. */
export async function readText(file: {
  text(): Promise<string>;
}): Promise<{ ok: true; text: string } | { ok: false; message: string }> {
  try {
    return { ok: true, text: await file.text() };
  } catch {
    return { ok: false, message: UNREADABLE };
  }
}
