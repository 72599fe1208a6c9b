import { mount } from '@vue/test-utils'
import { describe, expect, it, onTestFinished, vi } from 'vitest'
import type { Me, RightName } from '@/api/types'
import PageFrame from '@/components/PageFrame.vue'
import { useHouse } from '@/composables/useHouse'

const slots = {
  default: '<p>What was read</p>',
  lead: '<p>Said under it</p>',
  actions: '<button>Do</button>',
}

describe('PageFrame', () => {
  it('has one heading that names the page, with what is said and done beside it', () => {
    const page = mount(PageFrame, { props: { title: 'Blocks' }, slots })
    expect(page.findAll('h1')).toHaveLength(1)
    const main = page.get('main')
    expect(page.get(`#${main.attributes('aria-labelledby')}`).text()).toBe('Blocks')
    expect(page.text()).toContain('Said under it')
    expect(page.find('button').exists()).toBe(true)
    expect(page.text()).toContain('What was read')
  })

  it('shows a grey shape until it is read, but not for what comes at once', async () => {
    vi.useFakeTimers()
    const page = mount(PageFrame, { props: { title: 'Blocks', reading: true }, slots })
    expect(page.text()).not.toContain('What was read')
    expect(page.get('main').attributes('aria-busy')).toBe('true')
    expect(page.find('.el-skeleton__item').exists()).toBe(false)
    await vi.advanceTimersByTimeAsync(300)
    expect(page.find('.el-skeleton__item').exists()).toBe(true)
    await page.setProps({ reading: false })
    expect(page.find('.el-skeleton__item').exists()).toBe(false)
    expect(page.text()).toContain('What was read')
    vi.useRealTimers()
  })

  it('says what went wrong, and waits no longer', () => {
    const page = mount(PageFrame, {
      props: {
        title: 'Blocks',
        reading: true,
        problem: { type: 'urn:yardwand:line', title: 'No line', status: 0, detail: 'try again' },
      },
      slots,
    })
    expect(page.get('[role=alert]').text()).toBe('No line. Try again.')
    expect(page.get('main').attributes('aria-busy')).toBe('false')
    expect(page.find('.el-skeleton').exists()).toBe(false)
  })

  it('is as wide as its place asks', () => {
    const classes = (width: 'page' | 'wide' | 'bench') =>
      mount(PageFrame, { props: { width } }).get('main').classes()
    expect(classes('page')).toEqual(['stack', 'page'])
    expect(classes('wide')).toEqual(['stack', 'page', 'wide'])
    expect(classes('bench')).toEqual(['stack'])
  })
})

describe('a page that takes a right to change', () => {
  const { me } = useHouse()
  const signedIn = (may: RightName[]) => {
    me.value = { person: 1, name: 'Tomas', role: 'assistant', house: 'The workroom', may } as unknown as Me
    onTestFinished(() => void (me.value = undefined))
    return mount(PageFrame, { props: { title: 'Plan', right: 'cutting' }, slots }).text()
  }

  it('says so to who may only look, before anything is typed', () => {
    expect(signedIn(['readings'])).toContain('does not change it')
  })

  it('says nothing to who may change it', () => {
    expect(signedIn(['readings', 'cutting'])).not.toContain('does not change it')
  })
})
