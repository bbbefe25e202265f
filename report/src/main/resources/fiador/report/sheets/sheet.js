(function () {
  var table = document.getElementById('lines');
  var rows = Array.prototype.slice.call(table.tBodies[0].rows);
  var find = document.getElementById('find');
  var open = document.getElementById('open');

  function decision(row) {
    var chosen = row.querySelector('input[type=radio]:checked');
    return chosen ? chosen.value : '';
  }

  function show() {
    var done = 0;
    rows.forEach(function (row) {
      var said = decision(row);
      done += said ? 1 : 0;
      row.className = said;
      var fits = row.textContent.toLowerCase().indexOf(find.value.toLowerCase()) >= 0;
      row.hidden = !fits || (open.checked && said !== '');
    });
    document.getElementById('count').textContent = done + ' of ' + rows.length + ' decided';
    document.getElementById('done').style.width = (rows.length ? 100 * done / rows.length : 100) + '%';
  }

  // a program for tables takes what begins with one of these for a formula; a quote stops that
  function cell(text) {
    var safe = /^[=+\-@\t\r]/.test(text) ? "'" + text : text;
    return '"' + safe.replace(/"/g, '""') + '"';
  }

  function save() {
    var names = Array.prototype.map.call(table.tHead.rows[0].cells, function (th) { return th.textContent; });
    var lines = [names.concat('review').map(cell).join(',')];
    rows.forEach(function (row) {
      var texts = Array.prototype.slice.call(row.cells, 0, 7).map(function (td) { return td.textContent; });
      texts.push(decision(row), row.querySelector('.remark').value, table.dataset.review);
      lines.push(texts.map(cell).join(','));
    });
    var link = document.createElement('a');
    link.href = URL.createObjectURL(new Blob(['\ufeff' + lines.join('\r\n') + '\r\n'], { type: 'text/csv' }));
    link.download = (table.dataset.review + '-' + table.dataset.reviewer).replace(/[^\w.-]+/g, '_') + '.csv';
    document.body.appendChild(link);
    link.click();
    link.remove();
  }

  table.addEventListener('change', show);
  find.addEventListener('input', show);
  open.addEventListener('change', show);
  document.getElementById('save').addEventListener('click', save);
  show();
})();
