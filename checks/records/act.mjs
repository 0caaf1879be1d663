// A week of work on one copy: node act.mjs staging|live
import { add, change, changeGlobal, find, global, id, page, picture, remove } from './site.mjs'

const address = process.env.SITE_ADDRESS

async function staging() {
  const [home, fares] = [await id('pages', 'home'), await id('pages', 'fares')]
  const snow = await picture('snow.png', 'First snow')
  const ice = await add('tags', { name: 'ice' })
  await add('tags', { name: 'storm' })
  const norrey = await add('harbours', { name: 'Norrey', code: 'NOR' })
  const timetable = await page({
    title: 'Winter timetable', slug: 'winter', author: await id('users', 'mira@skerrow.example'), parent: home, hero: snow,
    body: `See ${address}/fares and ${address}/winter.`, tags: [await id('tags', 'winter'), ice],
    related: [{ relationTo: 'pages', value: fares }, { relationTo: 'harbours', value: norrey }],
    links: [{ label: 'Fares', page: fares }],
    layout: [{ blockType: 'teaser', label: 'Fares', page: fares }, { blockType: 'gallery', pictures: [snow, await id('media', 'selkie.png')] }],
    extra: { banner: `${address}/media/snow.png` },
  })
  const hesk = await page({ title: 'Winter sailings to Hesk', slug: 'winter-hesk', parent: timetable, related: [{ relationTo: 'pages', value: timetable }] })
  const header = (await global('header', 0)).entries
  await changeGlobal('header', { entries: [...header, { label: 'Winter', page: timetable }] })
  await changeGlobal('settings', { tagline: 'Four islands, all winter' })
  const before = await find('pages', 'fares', 0)
  await change('pages', 'fares', {
    title: 'Fares and cards', teaser: 'From 9.00',
    links: [...before.links, { label: 'Winter', page: timetable }],
    layout: before.layout.map((block) => (block.blockType === 'quote' ? { ...block, text: 'A fair winter price.' } : block)),
    extra: { ...before.extra, columns: 3 },
  })
  await change('pages', 'dogs', { tags: [...(await find('pages', 'dogs', 0)).tags, ice] })
  await change('pages', 'parking', { parent: home, hero: snow })
  await remove('pages', 'jobs')
  await change('harbours', 'HES', { name: 'Hesk harbour' })
  await add('offers', { title: 'Winter return', page: hesk, routes: [{ route: 'Brae to Hesk' }, { route: 'Hesk to Brae' }] })
  await add('offers', { title: 'Ten crossings', page: fares, routes: [] })
  await add('comments', { page: fares, author: 'tester', text: 'only a test' })
}

async function live() {
  const storm = await picture('waves.png', 'Waves over the pier')
  await add('users', { name: 'Liv', email: 'liv@skerrow.example', password: 'ferry-2' })
  await add('tags', { name: 'storm' })
  const notice = await page({
    title: 'Storm on Thursday', slug: 'storm', author: await id('users', 'liv@skerrow.example'), hero: storm, tags: [await id('tags', 'storm')],
  })
  await add('comments', { page: await id('pages', 'fares'), author: 'Ragna', text: 'Nine is fair.' })
  await add('comments', { page: notice, author: 'Eskil', text: 'Thanks for telling us.' })
  const fares = await find('pages', 'fares', 0)
  await change('pages', 'fares', { body: 'Children sail free, and so do dogs.', extra: { ...fares.extra, hint: 'ask on board' } })
  await change('pages', 'dogs', { title: 'Dogs on board' })
  const header = (await global('header', 0)).entries
  await changeGlobal('header', { entries: header.map((entry) => (entry.label === 'Home' ? { ...entry, label: 'Start' } : entry)) })
  await changeGlobal('settings', { notice: 'No sailings on Thursday' })
  await change('pages', 'lost', { layout: [{ blockType: 'quote', text: 'Write to desk@skerrow.example.' }] })
}

await (process.argv[2] === 'staging' ? staging() : live())
process.exit(0)
