// Who may do what with a site. Whether an account has a role is a question to the store; what a role may do is decided here.

/** What somebody is to a site, from least to most. */
export const roles = ['reader', 'writer', 'partner', 'owner'] as const
export type Role = (typeof roles)[number]

/** Roles that are given away; there is one owner. */
export const givenRoles = ['reader', 'writer', 'partner'] as const satisfies readonly Role[]
export type GivenRole = (typeof givenRoles)[number]

/**
 * What may be done with a site: *look* at all of it; *write* its plan, pages and files; *deliver* it and change where it
 * goes; *manage* what all pages share and who takes part; *remove* it.
 */
export const rights = ['look', 'write', 'deliver', 'manage', 'remove'] as const
export type Right = (typeof rights)[number]

const rightsOf: Readonly<Record<Role, readonly Right[]>> = {
  reader: ['look'],
  writer: ['look', 'write'],
  partner: ['look', 'write', 'deliver', 'manage'],
  owner: rights,
}

/** Whether somebody with a role, or with none (null), has a right. */
export const mayRole = (role: Role | null, right: Right): boolean =>
  role !== null && rightsOf[role].includes(right)
