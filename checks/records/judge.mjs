// Asks the CMS what live shows after the merge; says how many answers were wrong, and which.
import { cms, find, global } from './site.mjs'

let asked = 0
const wrong = []
const is = (what, found, expected) => {
  asked++
  const [one, other] = [JSON.stringify(found), JSON.stringify(expected)]
  if (one !== other) wrong.push(`${what}: ${one}, expected ${other}`)
}
const entries = (rows) => rows.map((row) => `${row.label} > ${row.page?.slug}`)
const names = (docs) => docs.map((doc) => doc.name)

const winter = await find('pages', 'winter')
const live = process.env.SITE_ADDRESS
is('new page', winter.title, 'Winter timetable')
is('its author', winter.author.email, 'mira@skerrow.example')
is('its parent', winter.parent.slug, 'home')
is('its picture', winter.hero.filename, 'snow.png')
is('its text', winter.body, `See ${live}/fares and ${live}/winter.`)
is('its JSON', winter.extra, { banner: `${live}/media/snow.png` })
is('its tags', names(winter.tags), ['winter', 'ice'])
is('its relations', winter.related.map((to) => `${to.relationTo} ${to.value.slug ?? to.value.code}`), ['pages fares', 'harbours NOR'])
is('its links', entries(winter.links), ['Fares > fares'])
is('its blocks', winter.layout.map((block) => block.blockType), ['teaser', 'gallery'])
is('its teaser', winter.layout[0].page.slug, 'fares')
is('its gallery', winter.layout[1].pictures.map((file) => file.filename), ['snow.png', 'selkie.png'])
const hesk = await find('pages', 'winter-hesk')
is('child page', hesk.parent.slug, 'winter')
is('its relation', hesk.related.map((to) => to.value.slug), ['winter'])

const fares = await find('pages', 'fares')
is('both edited: title', fares.title, 'Fares and cards')
is('both edited: text', fares.body, 'Children sail free, and so do dogs.')
is('both edited: JSON', fares.extra, { columns: 3, banner: `${live}/media/selkie.png`, hint: 'ask on board' })
is('both edited: quote', fares.layout[0].text, 'A fair winter price.')
is('both edited: blocks', fares.layout.map((block) => block.blockType), ['quote', 'teaser', 'gallery'])
is('both edited: gallery', fares.layout[2].pictures.map((file) => file.filename), ['selkie.png'])
is('both edited: tags', names(fares.tags), ['winter', 'summer'])
is('both edited: relations', fares.related.map((to) => to.value.slug ?? to.value.code), ['BRA', 'home'])
is('both edited: links', entries(fares.links), ['Home > home', 'Cards > home', 'Winter > winter'])
is('new field', fares.teaser, 'From 9.00')
is('new field elsewhere', (await find('pages', 'storm')).teaser ?? '', '')
const dogs = await find('pages', 'dogs')
is('title of live, tags of staging', [dogs.title, ...names(dogs.tags)], ['Dogs on board', 'summer', 'ice'])
is('its relation stays', dogs.related.map((to) => to.value.code), ['HES'])
const parking = await find('pages', 'parking')
is('new parent and picture', [parking.parent.slug, parking.hero.filename], ['home', 'snow.png'])
is('removed page', await find('pages', 'jobs'), undefined)
is("live's block", (await find('pages', 'lost')).layout.map((block) => block.text), ['Write to desk@skerrow.example.'])
is('harbour', (await find('harbours', 'HES')).name, 'Hesk harbour')

const storm = await find('pages', 'storm')
is("live's page", [storm.title, storm.author.email, storm.hero.filename, ...names(storm.tags)],
  ['Storm on Thursday', 'liv@skerrow.example', 'waves.png', 'storm'])
is('one tag of both', (await cms.find({ collection: 'tags', sort: 'name' })).docs.map((tag) => tag.name), ['ice', 'storm', 'summer', 'winter'])
is('comments', (await cms.find({ collection: 'comments', sort: 'text' })).docs.map((c) => `${c.text} > ${c.page.slug}`),
  ['Nine is fair. > fares', 'Thank you! > fares', 'Thanks for telling us. > storm'])
is('accounts', (await cms.find({ collection: 'users', sort: 'email' })).docs.map((user) => user.email),
  ['liv@skerrow.example', 'mira@skerrow.example'])
is('header', entries((await global('header')).entries), ['Start > home', 'Fares > fares', 'Winter > winter'])
const settings = await global('settings')
is('settings', [settings.tagline, settings.notice, settings.home.slug], ['Four islands, all winter', 'No sailings on Thursday', 'home'])
const offer = await find('offers', 'Winter return')
is('record of a new table', [offer.page.slug, ...offer.routes.map((row) => row.route)], ['winter-hesk', 'Brae to Hesk', 'Hesk to Brae'])
is('another one', (await find('offers', 'Ten crossings')).page.slug, 'fares')
for (const login of [['mira@skerrow.example', 'ferry-1'], ['liv@skerrow.example', 'ferry-2']]) {
  const { user } = await cms.login({ collection: 'users', data: { email: login[0], password: login[1] } })
  is('login', user.email, login[0])
}
is('the editor sees what visitors see', (await cms.findByID({ collection: 'pages', id: fares.id, draft: true })).title, 'Fares and cards')
await cms.update({ collection: 'pages', id: fares.id, data: { title: 'Fares 2027' } })
is('and can go on', [(await find('pages', 'fares')).title, (await find('pages', 'fares')).links.length], ['Fares 2027', 3])

console.log(`checks/records: ${asked} answers of the CMS, ${wrong.length} wrong`)
wrong.forEach((line) => console.error('  ' + line))
process.exit(wrong.length ? 1 : 0)
