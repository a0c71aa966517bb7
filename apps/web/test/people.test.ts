// People and what they keep: someone is added, given and losing roles, reset; kit; one's own password and sessions;
// leaving.
import { describe, expect, it } from 'vitest'
import { until } from './until.ts'
import { address, asked, barred, fill, gone, pagesFor, press, read, see, visit, words } from './visit.ts'

const last = () => asked.filter((a) => a.method !== 'GET').at(-1)!

describe('an administrator', () => {
  pagesFor('rona')

  it('adds someone, changes what they may do, makes a code for a new password, and disables them', async () => {
    await visit('/people', 'People')
    await press('Add a person')
    await fill('Name', 'Bree Sands')
    await fill('Sign-in name', 'bree')
    await fill('First password', 'short')
    await press('Add this person')
    await see('[role=alert]', /12|password/)
    await fill('First password', 'salt and kelp again')
    await press('Add this person')
    await see('tbody', 'Bree Sands')
    await press(/Change ?Bree Sands/)
    await barred('Set these roles')
    await press('reviewer', '[aria-label="Roles of Bree Sands"]')
    await press('Set these roles')
    await until(() => {
      expect(last()).toMatchObject({ method: 'PUT', status: 200, path: expect.stringMatching(/access$/) })
      expect((last().body as { roles: string[] }).roles.sort()).toEqual(['reviewer', 'technician'])
    })
    await press('administrator', '[aria-label="Roles of Bree Sands"]')
    await press('Make a one-time code for a new password')
    await see('[data-test="reset-code"]', /\w/)
    await read('it is shown only now and works once')
    await see('tbody tr', /Bree Sands.*code for a new password out until/)
    // The list was read again; what was chosen and not set yet stays.
    await press('administrator', '[aria-label="Roles of Bree Sands"]')
    await barred('Set these roles')
    await press('Disable: may not sign in any more')
    await see('tr.disabled', 'Bree Sands')
    await press('May sign in again')
    await gone('tr.disabled')
    await see('tbody tr', 'Bree Sands')
  })
  it('trusts the key of another installation only when it is one', async () => {
    await visit('/people', 'People')
    await see('section[aria-label="Keys of seals"] li', /since/)
    await fill('Name of the other installation', 'North works')
    await barred('Trust this key')
    await fill('The line that it shows', '0123456789abcdef c2hvcnQ=')
    await barred('Trust this key')
    expect(document.querySelectorAll('section[aria-label="Keys of seals"] li')).toHaveLength(1)
  })
})

describe('a technician', () => {
  pagesFor('ailsa')

  it('adds equipment with its date, and changes it', async () => {
    await visit('/kit', 'Kit')
    await press('Add equipment')
    await barred('Save equipment')
    await fill(/^Name|^Equipment/, 'Hand pump H4')
    await fill(/^Measures/, 'pressure')
    await fill(/[Dd]ue/, '2027-08-31')
    await press('Save equipment')
    await see('tbody', 'Hand pump H4')
    expect(words()).toContain('not stated')
    await press('Change Hand pump H4')
    await fill(/^Uncertainty/, '0.05 % (k = 2)')
    await press('Save equipment')
    await see('tbody', '0.05 % (k = 2)')
    await press('Change Hand pump H4')
    await press('Leave it as it was')
  })
  it('changes their own password only with the present one, and sees their sessions', async () => {
    await visit('/kit', 'Kit')
    await press(/Ailsa Fenn/)
    await press(/Password and sessions/)
    await fill('Present password', 'not this one')
    await fill('New password', 'kelp and salt and sand')
    await press('Change my password')
    await see('.sheet', /wrong|not your present/i)
    expect(last().status).toBe(401)
    await press('Close', '.sheet')
  })
  it('leaves, and comes back to where they were', async () => {
    await visit('/kit', 'Kit')
    await press(/Ailsa Fenn/)
    await press('Sign out')
    await until(() => expect(address()).toContain('/sign-in'))
    await see('h1', 'Calm Loop')
    await press(/Ailsa Fenn/)
    await until(() => expect(address()).toBe('/round'))
    await see('[data-test="job"]', 'Look into the gland of the head')
  })
})
