// Markup of small components, as HTML, and the ways in which specs reach into it. A query that is only a selector is
// asked of the container; `@` stands for `screen`.
export const SAMPLES = [
  [
    '<div><button class="fire">Fire</button><button class="cool" title="Let it cool">×</button></div>',
    ['.fire', '.cool', 'div > button', 'button + button', "@getByText('Fire')", "@getAllByRole('button')[1]"],
  ],
  [
    '<form><label>Cone <input class="cone" name="cone" placeholder="6" /></label><label for="note">Note</label><textarea id="note" class="note"></textarea></form>',
    ['.cone', '[name=cone]', '#note', 'form label input', "@getByPlaceholderText('6')"],
  ],
  [
    '<form><label for="k">Kiln</label><select id="k" class="kiln"><option value="e">East</option><option value="w">West</option></select><input type="checkbox" class="hold" aria-label="Hold" /><input type="radio" id="r1" name="r" /><label for="r1">Slow</label></form>',
    ['.kiln', '#k', '.hold', '#r1', 'option[value=w]', 'select > option'],
  ],
  [
    '<section aria-label="Shelf"><h2 class="title">Top shelf</h2><ul class="items"><li class="a">Bowl</li><li class="b">Vase</li></ul></section>',
    [
      'section',
      '.title',
      '.items > .a',
      '.b',
      'li + li',
      "@getByText('Top shelf')",
      "@getAllByRole('listitem')[1]",
    ],
  ],
  [
    '<nav class="menu"><a class="log" href="/log">Firing log</a><a class="board" href="/board"><span>Board</span></a><a class="none">Nowhere</a></nav>',
    ['.log', '.board', 'nav', '.none', 'a[href="/board"] span', "@getByText('Firing log')"],
  ],
  [
    '<table class="cones"><caption>Cones</caption><thead><tr><th class="h1">Cone</th><th class="h2">Heat</th></tr></thead><tbody><tr><td class="c1">6</td><td class="c2">1222</td></tr></tbody></table>',
    ['.cones', '.h1', '.c2', 'tbody td', "@getByText('Heat')", "@getAllByRole('cell')[0]"],
  ],
  [
    '<div><img class="pic" src="data:,k" alt="East kiln" /><img class="deco" src="data:,d" alt="" /><span class="sr" role="img" aria-label="Hot"></span></div>',
    ['.pic', '.deco', '.sr', 'img', "@getByAltText('East kiln')"],
  ],
  [
    '<div><h1 class="t" id="t">Glazes</h1><div class="box" role="region" aria-labelledby="t"><p class="p">Ten of them</p></div><div role="alert" class="al">Out of red</div></div>',
    ['.t', '.box', '.p', '.al', '#t', "@getByText('Glazes')"],
  ],
  [
    '<fieldset class="set"><legend>Speed</legend><label><input type="radio" name="s" class="slow" /> Slow</label><label><input type="radio" name="s" class="fast" /> Fast</label></fieldset>',
    ['.set', '.slow', '.fast', 'legend', "@getAllByRole('radio')[0]"],
  ],
  [
    '<div><button class="save" aria-label="Save the plan"><svg></svg></button><button class="x"><span aria-hidden="true">×</span> Close</button><input type="submit" class="go" value="Go" /><input type="range" class="heat" aria-label="Heat" /></div>',
    ['.save', '.x', '.go', '.heat', 'input', "@getByText('×')"],
  ],
  [
    '<article class="card" aria-label="Kiln 3"><header class="head"><h3 class="name">Kiln 3</h3></header><p class="state" data-testid="state">Cold</p><button data-testid="fire">Fire Kiln 3</button><footer class="foot">since noon</footer></article>',
    [
      '.card',
      '.head',
      '.name',
      '.state',
      '.foot',
      "@getByTestId('state')",
      "@getByTestId('fire')",
      '[data-testid=fire]',
    ],
  ],
  [
    '<div><div class="tabs" role="tablist" aria-label="Views"><button role="tab" class="t1" aria-selected="true">Log</button><button role="tab" class="t2" aria-selected="false">Plan</button></div><div role="tabpanel" class="pane" aria-label="Log">Nothing yet</div><progress class="bar" aria-label="Heating"></progress></div>',
    ['.tabs', '.t1', '.t2', '.pane', '.bar', "@getByText('Plan')", "@getAllByRole('tab')[1]"],
  ],
  [
    '<main class="m"><p class="one">same</p><p class="two">same</p><em class="em">now</em><i class="empty"></i><button class="b1">Turn</button><button class="b2">Turn</button></main>',
    ['.m', '.one', '.em', '.empty', '.b1', 'main > button'],
  ],
  ['<dl><dt class="k">Cone</dt><dd class="v">six</dd></dl>', ['.k', '.v', 'dl > dd']],
  [
    '<details class="more" open><summary class="sum">More</summary><p class="in">Slow cooling</p></details>',
    ['.more', '.sum', '.in', "@getByText('Slow cooling')"],
  ],
  [
    '<div><span id="w">Warn</span><span id="n">now</span><button class="lab" aria-labelledby="w n">!</button><button class="des" aria-describedby="w">Stop</button><div class="btn" role="button" tabindex="0">Press</div></div>',
    ['.lab', '.des', '.btn', "@getByText('Stop')", "@getByText('Press')", '#n'],
  ],
  [
    '<ul><li><label><input type="checkbox" class="c1" /> Bowl</label></li><li><label><input type="checkbox" class="c2" /> Vase</label> <a class="del" href="#vase" title="Drop the vase">x</a></li></ul>',
    ['.c1', '.c2', '.del', 'li label input', "@getAllByRole('checkbox')[1]", "@getByTitle('Drop the vase')"],
  ],
  [
    '<div><label for="pw">Key</label><input id="pw" type="password" class="pw" /><input type="number" class="num" aria-label="Hours" value="8" /><input type="search" class="find" placeholder="Find a glaze" /><output class="out">8 hours</output></div>',
    ['.pw', '#pw', '.num', '.find', '.out', "@getByPlaceholderText('Find a glaze')", "@getByText('8 hours')"],
  ],
  [
    '<div><button class="nb">Fire&nbsp;now</button><button class="sp"><b>Cool</b> <i>now</i></button><button class="nl"><b>Load</b>\n  <i>it</i></button></div>',
    ['.nb', '.sp', '.nl', '.sp b'],
  ],
];
