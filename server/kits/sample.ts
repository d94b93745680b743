/** A made-up site in which kits are shown. */
export const samplePlan = `Home
  Visit
    Getting here
    Opening days
  The building
    The painted ceiling
    The bell of 1684
    The salt porch
  Concerts
  Contact`

/** The page that is shown. */
export const samplePage = 'The painted ceiling'

export const sampleText = `<p>Forty-eight boards of limed oak, and on each of them a bird that somebody here had seen. Nobody signed the ceiling, and <a href="/">the parish book</a> pays for it in herring.</p>
<figure>
<svg viewBox="0 0 840 190" role="img" aria-label="Four boards of the ceiling, a bird on each">
<g fill="#d9c9a3" stroke="#8a7448" stroke-width="3"><path d="M2 2h206v186H2zM212 2h206v186H212zM422 2h206v186H422zM632 2h206v186H632z"/></g>
<g fill="none" stroke="#3d4a52" stroke-width="7" stroke-linecap="round"><path d="M40 100q35-50 65-8q30-42 65 8M250 80q35-42 62 8q28-50 72-20M462 110q30-62 62-14q35-40 66 22M668 84q40-30 66 14q26-46 70-12"/></g>
</svg>
<figcaption>Boards nine to twelve, before the restorers came.</figcaption>
</figure>
<h2>What is on it</h2>
<p>The boards run from west to east in the order in which the birds arrive, so the year begins above the door. Lie down on a bench; it is allowed.</p>
<ul>
<li>twelve waders, two of them upside down</li>
<li>one owl, added later</li>
<li>a tern that the restorers left half clean</li>
</ul>
<table>
<caption>When there is light enough</caption>
<thead><tr><th scope="col">Months</th><th scope="col">From</th><th scope="col">To</th></tr></thead>
<tbody><tr><th scope="row">March to October</th><td>8.00</td><td>18.30</td></tr>
<tr><th scope="row">The rest of the year</th><td>10.00</td><td>14.00</td></tr></tbody>
</table>
<blockquote><p>I counted the birds each Sunday, and never came to the same number.</p></blockquote>
`

/** What stands in slots beside the text. */
export const sampleAside = `<h2>On Sundays</h2>
<p>The tower is open after the service. Mind the ninth step.</p>
`
