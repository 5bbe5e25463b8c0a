import { describe, expect, it } from 'vitest';
import { may, RIGHTS, ROLES, type Grant, type Role } from './may';

const AT = Date.parse('2026-11-25T10:00:00Z');
const as = (role: Role, until: number | null = null): Grant => ({ role, course: 1, until });

describe('what somebody may do', () => {
  it('goes by the role in the course, and in no other', () => {
    const table = ROLES.map((role) => [role, RIGHTS.filter((right) => may([as(role)], right, 1, AT))]);
    expect(Object.fromEntries(table)).toEqual({
      instructor: ['look', 'act', 'grade', 'import', 'export', 'set up'],
      lead: ['look', 'export'],
      administrator: ['import', 'set up'],
      student: ['own'],
    });
    expect(
      RIGHTS.filter((right) =>
        may(
          ROLES.map((role) => as(role)),
          right,
          2,
          AT,
        ),
      ),
    ).toEqual([]);
  });
  it('ends when the grant ends, and goes on by another', () => {
    expect([AT - 1, AT].map((at) => may([as('instructor', AT)], 'look', 1, at))).toEqual([true, false]);
    expect(may([as('instructor', AT), as('lead')], 'look', 1, AT)).toBe(true);
    expect(may([as('instructor', AT), as('lead')], 'grade', 1, AT)).toBe(false);
  });
});
