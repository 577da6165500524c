/** Forms among the data of a page that ask for their choices before it is rendered. */
import { bindablesIn, withBindables } from './bindable-data.ts';
import type { FormExchange } from './binding/asked-choices.ts';
import { UnsentForm } from './own-form.ts';

/** The data with its forms ready; `undefined` where none of them asks for anything. */
export function preparedData(data: object, exchange: FormExchange): Promise<object> | undefined {
  const waiting = [...bindablesIn(data)].filter((one) => one instanceof UnsentForm && one.waits) as UnsentForm[];
  if (waiting.length === 0) return undefined;
  const ready = waiting.map(async (form) => [form, await form.prepared(exchange)] as const);
  return Promise.all(ready).then((forms) => withBindables(data, new Map(forms)));
}
