// Makes the site as it is before the week.
import { add, changeGlobal, page, picture } from './site.mjs'

const mira = await add('users', { name: 'Mira', email: 'mira@skerrow.example', password: 'ferry-1' })
const selkie = await picture('selkie.png', 'MV Selkie')
const [winter, summer] = [await add('tags', { name: 'winter' }), await add('tags', { name: 'summer' })]
const brae = await add('harbours', { name: 'Brae', code: 'BRA' })
const hesk = await add('harbours', { name: 'Hesk', code: 'HES' })
const home = await page({ title: 'Welcome aboard', slug: 'home', author: mira, hero: selkie })
const fares = await page({
  title: 'Fares', slug: 'fares', author: mira, parent: home, body: 'Children sail free.', tags: [winter, summer],
  related: [{ relationTo: 'harbours', value: brae }, { relationTo: 'pages', value: home }],
  links: [{ label: 'Home', page: home }, { label: 'Cards', page: home }],
  layout: [{ blockType: 'quote', text: 'A fair price.' }, { blockType: 'teaser', label: 'Sail', page: home },
    { blockType: 'gallery', pictures: [selkie] }],
  extra: { columns: 2, banner: process.env.SITE_ADDRESS + '/media/selkie.png', hint: 'cards' },
})
await page({ title: 'Travelling with dogs', slug: 'dogs', tags: [summer], related: [{ relationTo: 'harbours', value: hesk }] })
await page({ title: 'Work with us', slug: 'jobs', tags: [winter] })
await page({ title: 'Lost property', slug: 'lost', parent: home, layout: [{ blockType: 'quote', text: 'Ask in Brae.' }] })
await page({ title: 'Parking', slug: 'parking' })
await add('comments', { page: fares, author: 'Tove', text: 'Thank you!' })
await changeGlobal('header', { entries: [{ label: 'Home', page: home }, { label: 'Fares', page: fares }] })
await changeGlobal('settings', { tagline: 'Four islands', notice: '', home })
process.exit(0)
