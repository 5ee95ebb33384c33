const name = new Map(data.tables.map(t => [t.table, t]));
const bytes = b => b < 10000 ? number(b) + ' B' : b < 1e7 ? number(Math.floor(b / 1e3)) + ' kB' : b < 1e10 ? number(Math.floor(b / 1e6)) + ' MB' : number(Math.floor(b / 1e9)) + ' GB';
const percent = (part, all) => !part ? '0%' : part / all < 0.001 ? '<0.1%' : (100 * part / all).toPrecision(part / all < 0.1 ? 2 : 3).replace(/\.0+$/, '') + '%';
const carried = l => l.parents + l.children;
const total = key => data.tables.reduce((s, t) => s + t[key], 0);
figures([
  ['rows in ' + counted(data.tables.filter(t => t.rows).length, 'table'), data.rows],
  ['of the source\u2019s ' + number(total('source')) + ' rows', percent(data.rows, total('source'))],
  ['about', bytes(total('bytes'))],
  ['links that brought rows', data.links.filter(carried).length + ' of ' + data.links.length]]);
$('empty').checked = data.tables.length <= 40;
for (const t of data.tables) node('option', null, $('names'), {value: t.table});

const size = t => t.rows ? 14 + 34 * Math.sqrt(t.rows / Math.max(1, ...data.tables.map(x => x.rows))) : 12;
let cy;
function draw() {
  const shown = new Set(data.tables.filter(t => $('empty').checked || t.rows).map(t => t.table));
  const links = data.links.filter(l => shown.has(l.child) && shown.has(l.parent) && ($('empty').checked || carried(l) || l.cut));
  const most = Math.max(1, ...links.map(carried));
  const many = shown.size > 60;
  $('both').style.flexDirection = many ? 'column' : 'row';
  $('why').style.flexBasis = many ? 'auto' : '330px';
  $('graph').style.height = many ? '720px' : '520px';
  cy = cytoscape({
    container: $('graph'), minZoom: 0.1, maxZoom: 4,
    elements: {
      nodes: [...shown].map(t => ({data: {id: t, size: size(name.get(t))},
        classes: name.get(t).picked ? 'picked' : name.get(t).chosen ? 'chosen' : name.get(t).rows ? 'needed' : 'none'})),
      edges: links.map((l, i) => ({data: {id: 'link ' + i, source: l.child, target: l.parent, width: carried(l) ? 1 + 6 * Math.sqrt(carried(l) / most) : 1},
        classes: (l.cut ? 'cut ' : l.follow === 'never' ? 'never ' : '') + (carried(l) ? '' : 'idle')}))
    },
    style: [
      {selector: 'node', style: {width: 'data(size)', height: 'data(size)', label: 'data(id)', 'font-size': many ? 17 : 11, 'font-family': 'system-ui, DejaVu Sans, sans-serif', color: color('ink'),
        'text-valign': 'bottom', 'text-margin-y': 3, 'text-background-color': '#fff', 'text-background-opacity': 0.75, 'text-background-padding': 1, 'background-color': color('strong'), 'min-zoomed-font-size': 5}},
      {selector: '.picked', style: {'background-color': color('open')}},
      {selector: '.needed', style: {'background-color': color('soft')}},
      {selector: '.none', style: {'background-color': '#fff', 'border-width': 1.5, 'border-style': 'dashed', 'border-color': color('faint'), color: color('faint')}},
      {selector: 'edge', style: {width: 'data(width)', 'line-color': '#a9c7d4', 'target-arrow-color': '#a9c7d4', 'target-arrow-shape': 'triangle', 'arrow-scale': 0.8, 'curve-style': 'bezier', 'control-point-step-size': 26}},
      {selector: '.never', style: {'line-style': 'dashed'}},
      {selector: '.cut', style: {'line-style': 'dotted', 'line-color': color('bad'), 'target-arrow-color': color('bad'), width: 2}},
      {selector: '.idle', style: {'line-color': '#d5dce2', 'target-arrow-color': '#d5dce2'}},
      {selector: '.away', style: {opacity: 0.15}},
      {selector: 'node.at', style: {'border-width': 3, 'border-color': color('ink'), 'border-style': 'solid'}}
    ],
    layout: {name: 'preset'}
  });
  const around = (many ? 105 : 130) * Math.sqrt(shown.size), room = {x1: 0, y1: 0, w: 1.7 * around / 1.3, h: around / 1.3};
  const alone = cy.nodes().filter(x => x.degree(false) === 0), joined = cy.elements().difference(alone);
  // From a circle, and not by chance: the same page looks the same each time.
  joined.layout({name: 'circle', boundingBox: room}).run();
  joined.layout({name: 'cose', animate: false, randomize: false, boundingBox: room, nodeRepulsion: () => many ? 30000 : 9000 + 300 * shown.size, idealEdgeLength: () => 90, nodeOverlap: 30, gravity: many ? 60 : 30, componentSpacing: 60, numIter: many ? 1500 : 2500, padding: 20}).run();
  const box = joined.length ? joined.boundingBox() : {x1: 0, y2: 0, w: 600};
  alone.layout({name: 'grid', condense: true, avoidOverlapPadding: many ? 50 : 34, boundingBox: {x1: box.x1, y1: box.y2 + 30, w: Math.max(box.w, 300), h: 44 * Math.ceil(alone.length / 7) || 1}}).run();
  cy.fit(undefined, 18);
  if (cy.zoom() > 1.3) { cy.zoom(1.3); cy.center(); }
  cy.on('tap', 'node', e => choose(e.target.id()));
  cy.on('tap', e => { if (e.target === cy) choose(''); });
}

function choose(table) {
  cy.elements().removeClass('away at');
  for (const tr of $('tables').children) tr.className = tr.title === table && table ? 'on' : '';
  const at = cy.getElementById(table);
  if (at.length) { cy.elements().difference(at.closedNeighborhood()).addClass('away'); at.addClass('at'); }
  why(table);
}

function why(table) {
  const box = $('why'), t = name.get(table);
  box.textContent = '';
  if (!t) {
    node('h3', 'Picks', box);
    if (!data.picks.length) node('p', 'None: every row of every table.', box);
    for (const p of data.picks) node('p', p.table + (p.where ? ': ' + p.where : '') + (p.share !== null ? ', ' + Number((100 * p.share).toPrecision(3)) + '%' : '') + ': ' + number(p.picked) + ' of ' + counted(p.matched, 'row') + ' that match', box);
    node('p', '\u00a0', box);
    node('p', 'Click a table to see what brought its rows.', box);
    return;
  }
  node('h3', t.table, box);
  node('p', counted(t.rows, 'row') + ' of ' + number(t.source) + ', about ' + bytes(t.bytes) + '.', box);
  if (t.empty) node('p', 'It is to stay empty.', box);
  if (t.whole) node('p', 'The job takes the whole table.', box);
  if (t.picked) node('p', counted(t.picked, 'row') + ' picked.', box);
  const part = (title, list) => {
    if (!list.length) return;
    node('h3', title, box, {style: 'margin-top: 12px'});
    for (const [text, other] of list) { const p = node('p', '', box); node('a', text, p).addEventListener('click', () => choose(other)); }
  };
  const by = (list, key) => list.sort((a, b) => b[key] - a[key]);
  part('What brought its rows', [
    ...by(data.links.filter(l => l.child === table && l.children), 'children').map(l => [number(l.children) + ' as children of ' + l.parent + ' through ' + l.link.split(' -> ')[0], l.parent]),
    ...by(data.links.filter(l => l.parent === table && l.parents), 'parents').map(l => [number(l.parents) + ' needed by ' + l.child + ' through ' + l.link.split(' -> ')[0], l.child])]);
  if (t.chain.length) {
    node('h3', 'One of them, for example', box, {style: 'margin-top: 12px'});
    t.chain.forEach((step, i) => node('p', (i ? '\u2514 ' : '') + step, box, {style: 'padding-left: ' + 12 * i + 'px'}));
  }
  part('What its rows brought', [
    ...by(data.links.filter(l => l.parent === table && l.children), 'children').map(l => [counted(l.children, 'row') + ' of ' + l.child, l.child]),
    ...by(data.links.filter(l => l.child === table && l.parents), 'parents').map(l => [counted(l.parents, 'row') + ' of ' + l.parent, l.parent])]);
}

function tables() {
  const fits = words('words'), hits = data.tables.filter(t => fits(t.table)).sort((a, b) => b.rows - a.rows);
  $('shown').textContent = number(hits.length) + ' of ' + number(data.tables.length);
  $('tables').textContent = '';
  for (const t of hits) {
    const tr = row($('tables'), [t.table + (t.empty ? ' (to stay empty)' : t.whole ? ' (whole)' : ''), n(t.rows), n(t.picked || ''), n(t.chosen), n(t.needed), n(percent(t.rows, t.source)), n(bytes(t.bytes))], {title: t.table});
    tr.style.cursor = 'pointer';
    tr.addEventListener('click', () => { choose(t.table); $('graph').scrollIntoView({block: 'center'}); });
  }
}
function links() {
  const fits = words('linkwords'), hits = data.links.filter(l => fits(l.link)).sort((a, b) => carried(b) - carried(a));
  $('linksshown').textContent = number(hits.length) + ' of ' + number(data.links.length);
  $('links').textContent = '';
  for (const l of hits) row($('links'), [l.link + (l.if ? '  if ' + l.if : ''), l.cut ? 'cut' : l.follow + (l.at_most ? ', at most ' + number(l.at_most) : ''), n(l.parents), n(l.children), n(l.broken || '')]);
}
if (data.limits.length) {
  node('h2', 'What limits on the dearest links would save', $('limits'));
  const t = node('table', null, $('limits')), head = node('tr', null, node('thead', null, t)), body = node('tbody', null, t);
  node('th', 'with', head, {style: 'width:18%'}); node('th', 'for the link', head); node('th', 'fewer rows', head, {class: 'n', style: 'width:14%'}); node('th', 'about', head, {class: 'n', style: 'width:14%'});
  for (const l of data.limits) row(body, [l.limit, l.link, n(l.rows_fewer), n(bytes(l.bytes_fewer))]);
}
$('empty').addEventListener('change', draw);
$('fit').addEventListener('click', () => { choose(''); cy.fit(undefined, 18); });
$('find').addEventListener('change', () => { if (name.has($('find').value)) { choose($('find').value); cy.animate({center: {eles: cy.getElementById($('find').value)}, zoom: 1.2, duration: 0}); } });
$('words').addEventListener('input', tables); $('linkwords').addEventListener('input', links);
draw(); tables(); links(); why('');
