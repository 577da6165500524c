import { createLoom } from 'zip-loom';
const loom = await createLoom({ layouts: {'**':'a-layout'}, sources: { 'pages/empty.html': '<meta (layout none)>x', 'layouts/a-layout.html': '<slot></slot>', 'pages/date.html': '<meta (takes d)>${date(d)}', 'partials/x-card.html': '<meta (takes a, ...rest)><article class=${["card", a && "b"]} ${...rest}>x</article>', 'pages/cards.html': '<x-card (for i of [1,2,3,4,5,6,7,8,9,10]) a=${i}></x-card>', 'pages/region.html': '<p (region a)>x</p><p (region b)>x</p>' } });
const time = (name, f, n = 20000) => { for (let i = 0; i < 5000; i++) f(); const b = performance.now(); for (let i = 0; i < n; i++) f(); console.log(name, ((performance.now() - b) / n * 1000).toFixed(2), 'µs'); };
time('empty', () => loom.renderSync('empty', {}));
time('date', () => loom.renderSync('date', { d: '2026-06-14' }));
time('10 cards', () => loom.renderSync('cards', {}));
time('regions', () => loom.renderSync('region', {}));
