import { flushPromises, mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import { createMemoryHistory, createRouter } from 'vue-router'
import { createVuetify } from 'vuetify'
import WorkTabs from './WorkTabs.vue'

async function tabs(
  at = '/point',
  works: { id: string; name: string; stops?: number }[] = [
    { id: 'pipe', name: 'Pipe' },
    { id: 'zero', name: 'Zero', stops: 2 },
  ],
) {
  const router = createRouter({ history: createMemoryHistory(), routes: [{ path: '/:rest*', component: {} }] })
  await router.push(at)
  const w = mount(WorkTabs, {
    props: { works, label: 'Work at the point' },
    slots: { default: ({ work }: { work: string }) => `panel of ${work}` },
    global: { plugins: [createVuetify(), router] },
  })
  return { w, router }
}
const chosen = (w: Awaited<ReturnType<typeof tabs>>['w']) =>
  w.findAll('[role=tab]').flatMap((t) => (t.attributes('aria-selected') === 'true' ? [t.text()] : []))

describe('what is done at a stage', () => {
  it('begins with the first, whose panel is shown under its name', async () => {
    const { w } = await tabs()
    expect(chosen(w)).toEqual(['Pipe'])
    const panel = w.find('[role=tabpanel]')
    expect(panel.text()).toBe('panel of pipe')
    expect(w.find(`#${panel.attributes('aria-labelledby')}`).text()).toBe('Pipe')
    expect(w.find('[role=tablist]').attributes('aria-label')).toBe('Work at the point')
  })
  it('stands in the address, and follows it', async () => {
    const { w, router } = await tabs('/point?do=zero')
    expect(chosen(w)[0]).toContain('Zero')
    await w.findAll('[role=tab]')[0]!.trigger('click')
    await flushPromises()
    expect(router.currentRoute.value.query).toEqual({ do: 'pipe' })
    expect(w.find('[role=tabpanel]').text()).toBe('panel of pipe')
    await router.push('/point?do=zero')
    await flushPromises()
    expect(w.find('[role=tabpanel]').text()).toBe('panel of zero')
  })
  it('takes an address that names none for the first', async () => {
    const { w } = await tabs('/point?do=nonsense')
    expect(w.find('[role=tabpanel]').text()).toBe('panel of pipe')
  })
  it('says how many stops wait there', async () => {
    const { w } = await tabs()
    expect(w.findAll('[role=tab]')[1]!.text()).toBe('Zero, 2 stop')
  })
})
