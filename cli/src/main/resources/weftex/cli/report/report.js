const box = document.getElementById('filter')
const found = document.getElementById('found')
const things = [...document.querySelectorAll('.thing')].map((thing) => [thing, thing.textContent.toLowerCase()])
box.form.classList.remove('hidden')
box.form.addEventListener('submit', (event) => event.preventDefault())
box.addEventListener('input', () => {
  const words = box.value.toLowerCase().split(/\s+/).filter(Boolean)
  let shown = 0
  for (const [thing, text] of things) {
    const meant = words.every((word) => text.includes(word))
    thing.classList.toggle('hidden', !meant)
    shown += meant
  }
  for (const section of document.querySelectorAll('section.group')) {
    section.classList.toggle('hidden', !section.querySelector('.thing:not(.hidden)'))
  }
  found.textContent = words.length ? `${shown} of ${things.length} shown` : ''
})
const open = () => document.getElementById(location.hash.slice(1))?.querySelector('details')?.setAttribute('open', '')
addEventListener('hashchange', open)
open()
