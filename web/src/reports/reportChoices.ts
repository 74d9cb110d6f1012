/** What a report can be told, in words. */
export const RHYTHMS = [
  { title: 'every morning at 07:00', value: 'FREQ=DAILY;BYHOUR=7;BYMINUTE=0;BYSECOND=0' },
  {
    title: 'every Monday at 07:00',
    value: 'FREQ=WEEKLY;BYDAY=MO;BYHOUR=7;BYMINUTE=0;BYSECOND=0',
  },
  {
    title: 'on the first of each month at 05:00',
    value: 'FREQ=MONTHLY;BYMONTHDAY=1;BYHOUR=5;BYMINUTE=0;BYSECOND=0',
  },
  {
    title: 'on the first of each quarter at 05:00',
    value: 'FREQ=YEARLY;BYMONTH=1,4,7,10;BYMONTHDAY=1;BYHOUR=5;BYMINUTE=0;BYSECOND=0',
  },
  { title: 'by a rule of my own …', value: 'own' },
]

export const HOWS = [
  { value: 'mail', title: 'by mail to' },
  { value: 'folder', title: 'into the folder' },
  { value: 'webhook', title: 'by webhook to' },
]

export const HINTS: Record<string, string> = {
  mail: 'one address',
  folder: 'a name; it lies in the outbox of the data folder',
  webhook: 'https://host/path; the host must be allowed under Engines and sandboxes',
}

export const FORMATS = [
  { value: 'html', title: 'a page' },
  { value: 'csv', title: 'CSV' },
  { value: 'json', title: 'JSON' },
]

/** `by mail to ops@example.org`. */
export function reached(how: string, recipient: string): string {
  return `${HOWS.find((h) => h.value === how)?.title ?? how} ${recipient}`
}

/** When, in words; a rule that is not offered is shown as it is written. */
export function rhythm(rule: string): string {
  return RHYTHMS.find((r) => r.value === rule)?.title ?? rule
}
