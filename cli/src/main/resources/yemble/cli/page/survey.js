const several = data.length > 1;
const all = data.flatMap(d => d.tables.flatMap(t => t.columns.map(c => ({...c, table: t.table, database: d.database}))));
const personal = all.filter(c => c.kind);
figures([
  ['columns and paths', all.length], ['personal', personal.length],
  ['tables that hold any', data.flatMap(d => d.tables).filter(t => t.columns.some(c => c.kind)).length],
  ['masked', all.filter(c => c.decision === 'mask').length],
  ['still open', all.filter(c => c.decision === 'open').length, 'open']]);
const go = (text, show) => { $('words').value = text; $('show').value = show; list(); $('words').scrollIntoView({block: 'center'}); };
function maps() {
  $('maps').textContent = '';
  const byRows = $('size').value === 'rows';
  data.forEach((d, i) => {
    const section = node('section', null, $('maps'), {style: 'flex: 1; min-width: 0'});
    const head = node('h3', d.database + ' ', section);
    node('span', '(' + d.environment + ') surveyed ' + d.at, head);
    node('div', null, section, {id: 'map' + i, style: 'height: 330px'});
    const leaves = d.tables.map(t => {
      const found = t.columns.filter(c => c.kind).length, share = t.columns.length ? found / t.columns.length : 0;
      return {name: t.table, found, columns: t.columns.length, rows: t.rows, value: byRows ? Math.sqrt(Math.max(t.rows, 1)) : t.columns.length,
        itemStyle: {color: echarts.color.lerp(share, [color('pale'), color('soft'), color('strong')])}};
    });
    chart('map' + i, {
      tooltip: {formatter: p => p.data && p.data.columns !== undefined ? `${echarts.format.encodeHTML(p.name)}: ${p.data.found} of ${p.data.columns} columns personal` + (p.data.rows >= 0 ? `, about ${number(p.data.rows)} rows` : '') : ''},
      series: [{type: 'treemap', animation: false, data: leaves, roam: false, nodeClick: false, breadcrumb: {show: false}, left: 0, right: 0, top: 0, bottom: 0,
        itemStyle: {borderColor: color('ground'), borderWidth: 0, gapWidth: 2},
        label: {position: [6, 5], overflow: 'truncate', rich: {light: {color: '#fff', fontSize: 11, lineHeight: 14}, dark: {color: color('ink'), fontSize: 11, lineHeight: 14}},
          formatter: p => { const style = p.data.found > 0.55 * p.data.columns ? 'light' : 'dark', name = p.name.replace(/[{}|]/g, ''); return `{${style}|${name}}` + (p.data.found ? `\n{${style}|${p.data.found} of ${p.data.columns} columns}` : ''); }}}]
    }, p => go((several ? d.database + ' ' : '') + p.name + '.', ''));
  });
}
const count = (list, key) => list.reduce((m, c) => m.set(c[key], (m.get(c[key]) || 0) + 1), new Map());
function kinds() {
  const categories = [...count(personal, 'category')].sort((a, b) => a[1] - b[1]);
  $('kinds').style.height = 26 + categories.length * 24 + 'px';
  if (!categories.length) return;
  const names = [...count(personal, 'kind')].sort((a, b) => b[1] - a[1]).map(k => k[0]);
  const shades = ['#0b5c7a', '#3d88a3', '#7fb2c6', '#b5d2de', '#5f6f7d', '#98a5b1'];
  const rank = new Map();
  chart('kinds', {
    grid: {left: 100, right: 40, top: 4, bottom: 20}, tooltip: {formatter: p => `${p.seriesName}: ${counted(p.value, 'column')}`},
    xAxis: {type: 'value', minInterval: 1, splitLine: {lineStyle: {color: color('line')}}},
    yAxis: {type: 'category', data: categories.map(c => c[0]), axisTick: {show: false}, axisLine: {show: false}},
    series: names.map(kind => {
      const category = personal.find(c => c.kind === kind).category, at = rank.get(category) || 0;
      rank.set(category, at + 1);
      return {type: 'bar', stack: 'all', name: kind, barWidth: 15, itemStyle: {color: shades[at % shades.length], borderColor: color('ground'), borderWidth: 1},
        label: {show: true, formatter: p => p.value * 60 / Math.max(1, categories[categories.length - 1][1]) > kind.length / 2.2 ? kind : '', fontSize: 10, color: at % shades.length === 2 || at % shades.length === 3 ? color('ink') : '#fff'},
        data: categories.map(c => c[0] === category ? personal.filter(p => p.kind === kind).length : null)};
    })
  }, p => go(p.seriesName, 'personal'));
}
function list() {
  const fits = words('words'), show = $('show').value;
  const hits = all.filter(c => (show === '' || (show === 'personal' ? c.kind || c.decision === 'open' : c.decision === show))
    && fits([c.database, c.table + '.' + c.column, c.kind, c.category, c.decision, c.evidence].join(' ')));
  $('shown').textContent = number(hits.length) + ' of ' + number(all.length);
  $('rows').textContent = '';
  for (const c of hits.slice(0, 2000)) {
    row($('rows'), [(several ? c.database + ' ' : '') + c.table + '.' + c.column, f(c.type), c.kind, n(c.kind ? c.sure + '%' : ''),
      {text: c.decision + (c.by ? ' by ' + c.by : ''), cls: c.decision === 'open' ? 'open' : ''}, f(c.evidence)]);
  }
}
$('size').addEventListener('change', maps); $('words').addEventListener('input', list); $('show').addEventListener('change', list);
maps(); kinds(); list();
