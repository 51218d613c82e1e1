import { Refused } from '../../api/client';

/** Reads a JSON object from a chosen file, or explains why it is not one. */
export async function readJson(file: File): Promise<Record<string, unknown>> {
  const refuse = (message: string) => new Refused({ error: { message, where: file.name } }, 422);
  let data: unknown;
  try {
    data = JSON.parse(await file.text());
  } catch (error) {
    throw refuse(`${file.name} is not JSON: ${error instanceof Error ? error.message : ''}`);
  }
  if (typeof data !== 'object' || data === null || Array.isArray(data))
    throw refuse(`${file.name} holds no JSON object.`);
  return data as Record<string, unknown>;
}
