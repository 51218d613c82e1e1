import type { Outputs, Settings } from '../../../api/client';

export type Wish = Outputs['wishes'][number];
export type WishKind = Wish['kind'];

export const KINDS: { id: WishKind; name: string }[] = [
  { id: 'reach', name: 'must reach' },
  { id: 'least', name: 'at least' },
  { id: 'most', name: 'at most' },
  { id: 'never', name: 'never' },
];

export const hasLevel = (kind: WishKind) => kind === 'least' || kind === 'most';

/** Settings that add a wish. */
export function added(wishes: Wish[], wish: Partial<Omit<Wish, 'number'>>): Settings {
  const keys = wishes.map((one) => one.number);
  const key = Math.max(0, ...keys) + 1;
  const fields = Object.entries(wish).map(([field, value]) => [`wish/${key}/${field}`, value]);
  return { 'wish/order': [...keys, key], ...(Object.fromEntries(fields) as Settings) };
}

/** Settings that take an item out of a list. */
export const removed = (list: string, numbers: number[], gone: number): Settings => ({
  [`${list}/order`]: numbers.filter((one) => one !== gone),
});
