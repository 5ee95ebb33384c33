const data = JSON.parse(document.getElementById('data').textContent);
const $ = id => document.getElementById(id);
const color = name => getComputedStyle(document.documentElement).getPropertyValue('--' + name).trim();
const node = (name, text, parent, attributes) => {
  const n = document.createElement(name);
  if (text !== undefined && text !== null) n.textContent = text;
  for (const a in attributes || {}) n.setAttribute(a, attributes[a]);
  if (parent) parent.appendChild(n);
  return n;
};
const number = n => n.toLocaleString('en');
const counted = (n, noun) => number(n) + ' ' + noun + (n === 1 ? '' : 's');
const figures = list => {
  for (const [label, value, cls] of list) {
    const box = node('div', null, $('figures'), cls ? {class: cls} : {});
    node('b', typeof value === 'number' ? number(value) : value, box); box.append(label);
  }
};
const words = id => { const w = $(id).value.toLowerCase().split(' ').filter(x => x); return text => w.every(x => text.toLowerCase().includes(x)); };
/** A row of a table: texts, or objects of a text and a class. */
const row = (parent, cells, attributes) => {
  const tr = node('tr', null, parent, attributes);
  for (const c of cells) c && c.text !== undefined ? node('td', c.text, tr, {class: c.cls}) : node('td', c, tr);
  return tr;
};
const n = value => ({text: typeof value === 'number' ? number(value) : value, cls: 'n'});
const f = text => ({text, cls: 'f'});
const chart = (id, option, onClick) => {
  const c = echarts.init($(id));
  c.setOption({animation: false, textStyle: {fontFamily: 'system-ui, "DejaVu Sans", sans-serif'}, ...option});
  if (onClick) c.on('click', onClick);
  return c;
};
