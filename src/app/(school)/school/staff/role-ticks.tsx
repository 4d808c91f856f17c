import { staffRoles, type Role } from '@/core/people/roles'
import { Tick } from '@/ui/field'

type StaffRole = (typeof staffRoles)[number]

const about: Readonly<Record<StaffRole, string>> = {
  administrator: 'sets up the school and its accounts',
  head: 'sees everything, checks and releases reports',
  office: 'enrols, keeps records, looks after attendance',
  records: 'student records and attendance only',
  teacher: 'own classes and homeroom',
}

/** What a member of staff may do, a tick for each role. */
export function RoleTicks({
  chosen,
  onChange,
  problem,
}: {
  chosen: readonly Role[]
  onChange: (roles: StaffRole[]) => void
  problem?: string
}) {
  const own = staffRoles.filter((role) => chosen.includes(role))
  return (
    <fieldset>
      <legend className="text-[13px] font-bold">Roles</legend>
      {problem && (
        <p role="alert" className="text-[13px] text-port">
          <span aria-hidden>▲ </span>
          {problem}
        </p>
      )}
      {staffRoles.map((role) => (
        <Tick
          key={role}
          label={role.slice(0, 1).toUpperCase() + role.slice(1)}
          detail={about[role]}
          checked={own.includes(role)}
          onChange={(e) => onChange(e.target.checked ? [...own, role] : own.filter((r) => r !== role))}
        />
      ))}
    </fieldset>
  )
}
