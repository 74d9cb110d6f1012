import type { Role } from '@/api/types'

/** The roles, with what each may do beyond reading and making packs. */
export const roles: { code: Role; may: string }[] = [
  { code: 'auditor', may: 'Reads everything, makes packs, proposes exceptions.' },
  {
    code: 'operator',
    may: 'Also starts drills, keeps checks and programmes, brings facts in, writes policies.',
  },
  { code: 'approver', may: 'As an auditor; decides exceptions that others proposed.' },
  {
    code: 'administrator',
    may: 'As an operator; also keeps people, standards, engines and where checks may go outside.',
  },
]
