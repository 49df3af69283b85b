"""Ten pages that are known, as HTML: what `known_drawing` draws mockups of.

They are of Fernhollow Apiary, which does not exist. `data-rep` marks what repeats, `data-art` what
is a picture; everything else is told by the elements.
"""

FONTS = "src/riffler/demo/fernhollow/fonts"

_BASE = """
*{box-sizing:border-box;margin:0}ul{list-style:none;padding:0}a{color:inherit;text-decoration:none}
body{font:16px/24px Figtree;color:#3a2618;background:#fbf4e4}h1,h2,h3{font-family:Fraunces;font-weight:600}
h1{font-size:44px;line-height:52px}h2{font-size:28px;line-height:34px}h3{font-size:20px;line-height:26px}
svg{display:block;flex:none}
"""


def _art(name: str, width: int, height: int, seed: int) -> str:
    """A picture of several shapes: a hill, a sun, and trees."""
    hue = (seed * 67) % 360
    trees = "".join(
        f'<path d="M{x} {height}l{width // 12} -{height // 3}l{width // 12} {height // 3}z" '
        f'fill="hsl({hue} 40% {20 + n * 4}%)"/>'
        for n, x in enumerate(range(width // 10, width - width // 6, max(12, width // 5)))
    )
    return (
        f'<svg data-art="{name}" width="{width}" height="{height}" viewBox="0 0 {width} {height}">'
        f'<rect width="{width}" height="{height}" fill="hsl({hue} 50% 70%)"/>'
        f'<circle cx="{width * 0.7:.0f}" cy="{height * 0.35:.0f}" r="{height * 0.2:.0f}" '
        f'fill="hsl({hue + 40} 80% 75%)"/>'
        f'<path d="M0 {height}V{height * 0.7:.0f}Q{width / 2:.0f} {height * 0.4:.0f} {width} '
        f'{height * 0.75:.0f}V{height}z" fill="hsl({hue + 80} 35% 45%)"/>{trees}</svg>'
    )


def _icon(name: str, seed: int, color: str = "#b8741a", side: int = 32) -> str:
    shapes = (
        '<path d="M16 3L29 10.500V25L16 30L3 25V10.500Z"/>',
        '<path d="M16 2L20 12L30 13L22 19L25 30L16 24L7 30L10 19L2 13L12 12Z"/>',
        '<path d="M4 6H28V20H14L8 28V20H4Z"/>',
        '<path d="M16 30C6 22 2 17 2 11A7 7 0 0 1 16 8A7 7 0 0 1 30 11C30 17 26 22 16 30Z"/>',
    )
    return (
        f'<svg data-art="{name}" width="{side}" height="{side}" viewBox="0 0 32 32" '
        f'fill="{color}">{shapes[seed % 4]}</svg>'
    )


_NAV = ("Home", "Hives", "Workshops", "Visit")


def _nav(gap: int = 28, color: str = "inherit") -> str:
    links = "".join(f'<li data-rep="link"><a href="#">{name}</a></li>' for name in _NAV)
    return f'<nav><ul style="display:flex;gap:{gap}px;color:{color};font-weight:600">{links}</ul></nav>'


def _sidebar() -> str:
    items = "".join(
        f'<li data-rep="item" style="display:flex;gap:12px;align-items:center;height:44px;padding:0 14px">'
        f"{_icon(f'mark-{n}', n, '#e9b949', 20)}<span>{name}</span></li>"
        for n, name in enumerate(("Overview", "Colonies", "Harvest", "Weather", "Letters"))
    )
    stats = "".join(
        f'<li data-rep="stat" style="background:#fff;border-radius:10px;padding:18px 20px 20px">'
        f'<p style="font-size:14px;line-height:20px;color:#7a6a58">{label}</p>'
        f'<p style="font:600 32px/40px Figtree">{number}</p></li>'
        for label, number in (
            ("Hives in use", "38"),
            ("Jars this week", "412"),
            ("Swarms caught", "6"),
        )
    )
    rows = "".join(
        f'<li data-rep="row" style="display:flex;justify-content:space-between;padding:10px 0">'
        f'<p>{name}</p><p style="color:#7a6a58">{kilos} kg</p></li>'
        for name, kilos in (
            ("Orchard row", "21.4"),
            ("Lime alley", "18.9"),
            ("Heather hill", "30.2"),
            ("Mill bank", "12.7"),
        )
    )
    return f"""<body style="display:flex;width:1200px;height:820px;background:#f2ece0">
<aside style="width:220px;background:#33231a;color:#f6ecd8;padding:24px 16px;font-weight:600">
<p style="font:600 22px/28px Fraunces;padding:0 14px 20px">Fernhollow</p><nav><ul>{items}</ul></nav></aside>
<main style="flex:1;padding:32px 36px"><h1 style="font-size:34px;line-height:42px">Good morning, keeper</h1>
<ul style="display:grid;grid-template-columns:repeat(3,1fr);gap:20px;margin-top:24px">{stats}</ul>
<section style="background:#fff;border-radius:10px;padding:22px 24px;margin-top:20px"><h2 style="font-size:22px;line-height:28px">Last harvest</h2>
<ul style="margin-top:10px">{rows}</ul></section></main></body>"""


def _article() -> str:
    text = (
        (
            "A hive has a voice, and it changes with the hour. In the morning it is a murmur of "
            "those who stayed in; at noon you hear the field bees come and go, and before rain "
            "all of it drops."
        ),
        (
            "We write down what we hear. After eleven summers there is a shelf of books, and "
            "whoever reads two of them side by side can tell a dry year from a wet one without a "
            "single number."
        ),
    )
    more = "".join(
        f'<li data-rep="letter" style="border-top:1px solid #d9ccb2;padding:12px 0">'
        f'<p style="font-weight:600">{title}</p><p style="font-size:13px;line-height:18px;color:#7a6a58">{month}</p></li>'
        for title, month in (
            ("The queen we lost", "March"),
            ("Frames of lime", "July"),
            ("How to lift a lid", "May"),
        )
    )
    return f"""<body style="width:1180px">
<header style="display:flex;justify-content:space-between;align-items:center;padding:22px 90px"><p style="font:600 24px/30px Fraunces">Fernhollow</p>{_nav()}</header>
<div style="display:flex;gap:60px;padding:40px 90px 64px"><main style="width:640px"><article>
<h1>What a hive says before the rain</h1><p style="color:#7a6a58;margin-top:12px">By the keeper of Mill Lane, in the eleventh summer</p>
<p style="margin-top:24px;font-size:18px;line-height:29px">{text[0]}</p><figure style="margin-top:28px">{_art("hill", 640, 340, 2)}<figcaption style="font-size:13px;line-height:18px;color:#7a6a58;margin-top:8px">The lower meadow, an hour before the storm.</figcaption></figure>
<h2 style="margin-top:32px">The shelf of books</h2><p style="margin-top:12px;font-size:18px;line-height:29px">{text[1]}</p></article></main>
<aside style="width:300px"><section style="background:#f1e4c8;border-radius:8px;padding:24px;text-align:center">{_icon("portrait", 1, "#8a3a1c", 72).replace("<svg", '<svg style="margin:0 auto"')}
<h2 style="font-size:20px;line-height:26px;margin-top:14px">The keeper</h2><p style="font-size:14px;line-height:20px;margin-top:4px">Writes on the back of lids.</p></section>
<section style="margin-top:36px"><h2 style="font-size:20px;line-height:26px">More letters</h2><ul style="margin-top:10px">{more}</ul></section></aside></div>
<footer style="background:#e9dcc0;padding:24px 0;text-align:center;font-size:14px;line-height:20px">Fernhollow Apiary, Mill Lane. Open from Thursday on.</footer></body>"""


def _icon_grid() -> str:
    names = (
        "Your own bees",
        "Six jars",
        "Four letters",
        "A summer day",
        "A strip of meadow",
        "A name",
        "A tasting",
        "A map",
    )
    items = "".join(
        f'<li data-rep="gift" style="display:flex;gap:16px">{_icon(f"gift-{n}", n, "#b8741a", 48)}'
        f'<div><h2 style="font-size:20px;line-height:26px">{name}</h2><p style="width:190px;font-size:15px;line-height:22px;margin-top:4px;color:#6b5136">{line}</p></div></li>'
        for n, (name, line) in enumerate(
            zip(
                names,
                (
                    "Forty thousand of them, looked after by us",
                    "Of the honey they made this year",
                    "One a season, by post from the hives",
                    "Open your hive with us, gloves are here",
                    "Sown each spring, two metres a hive",
                    "Yours, or one that you choose yourself",
                    "Five kinds on warm bread, in June",
                    "Where your bees fly, drawn by hand",
                ),
                strict=True,
            )
        )
    )
    return f"""<body style="width:1120px"><header style="display:flex;justify-content:space-between;padding:28px 60px"><p style="font:600 24px/30px Fraunces">Fernhollow</p>{_nav(24)}</header>
<main style="padding:48px 60px 72px"><h1 style="text-align:center">What you get</h1><p style="text-align:center;margin-top:10px;font-size:18px;line-height:28px">Everything that belongs to a hive of your own.</p>
<ul style="display:grid;grid-template-columns:repeat(3,1fr);gap:44px 32px;margin-top:48px">{items}</ul></main>
<footer style="background:#33231a;color:#e9d9bd;padding:32px 60px">Fernhollow Apiary, Mill Lane</footer></body>"""


def _pricing() -> str:
    def card(name: str, price: str, line: str, inside: tuple[str, ...], best: bool) -> str:
        look = "background:#e8ad3c" if best else "background:#fffaf0;border:1px solid #e6d6b5"
        entries = "".join(f'<li style="margin-top:8px">{one}</li>' for one in inside)
        return (
            f'<li data-rep="plan" style="{look};border-radius:14px;padding:28px 28px 32px;width:300px">'
            f'<h2>{name}</h2><p style="font:600 44px/56px Fraunces;margin-top:6px">{price}</p>'
            f'<p style="color:#59412a">{line}</p><ul style="margin-top:14px">{entries}</ul>'
            f'<a href="#" style="display:inline-block;margin-top:22px;background:#33231a;color:#fbf4e4;'
            f'border-radius:22px;padding:10px 24px;font-weight:600">Choose {name}</a></li>'
        )

    cards = (
        card("Swarm", "£24", "a year, shared by twelve", ("Two jars", "One letter"), False)
        + card("Colony", "£60", "a year, shared by four", ("Six jars", "Four letters"), True)
        + card("Apiary", "£140", "a year, all yours", ("Twenty jars", "A day with us"), False)
    )
    return f"""<body style="width:1080px"><header style="padding:26px 60px;display:flex;justify-content:space-between"><p style="font:600 24px/30px Fraunces">Fernhollow</p>{_nav()}</header>
<main style="padding:40px 60px 80px"><h1>Three ways to share a hive</h1><p style="margin-top:12px;width:520px">Pick one, change it in any season. Bees do not mind who pays for their winter sugar.</p>
<ul style="display:flex;gap:30px;margin-top:36px">{cards}</ul></main></body>"""


def _dark() -> str:
    cards = "".join(
        f'<li data-rep="loaf" style="background:#2b2036;border:1px solid #473a56;border-radius:16px;padding:16px;width:260px">'
        f'{_art(f"scene-{n}", 226, 150, n + 3)}<h3 style="margin-top:14px">{name}</h3>'
        f'<p style="font-size:14px;line-height:20px;color:#b9a9c9;margin-top:2px">{line}</p></li>'
        for n, (name, line) in enumerate(
            (
                ("Night flight", "Lanterns and a slow walk"),
                ("Moth garden", "White flowers after ten"),
                ("Star jars", "Honey by candle light"),
                ("Late bread", "From the stone oven"),
            )
        )
    )
    return f"""<body style="width:1200px;background:#1b1424;color:#f1e6d6"><div style="background:linear-gradient(180deg,#3c2a50,#1b1424);padding-bottom:40px">
<header style="display:flex;justify-content:space-between;align-items:center;padding:28px 50px"><p style="font:600 26px/32px Fraunces">Fernhollow by night</p>{_nav()}</header>
<section style="padding:50px 50px 20px"><h1 style="font-size:54px;line-height:62px;width:560px">Come when the bees are asleep</h1><p style="margin-top:14px;width:430px;color:#d8c7b3">Four evenings a year we leave the gate open, and every path has a lantern.</p>
<a href="#" style="display:inline-block;background:#f0a848;color:#2b1c10;border-radius:10px;padding:12px 26px;font-weight:600;margin-top:24px">Book an evening</a></section></div>
<main style="padding:20px 50px 70px"><h2>What happens</h2><ul style="display:flex;gap:20px;margin-top:22px">{cards}</ul></main>
<footer style="text-align:center;font-size:14px;line-height:20px;color:#9a8aa8;padding:0 0 40px">Open from dusk until the last lantern</footer></body>"""


def _tall() -> str:
    rows = "".join(
        f'<li data-rep="row" style="display:flex;align-items:center;height:60px;padding:0 24px;background:{"#fffaf0" if n % 2 else "#f4e8cd"}">'
        f'{_icon("comb", 0, "#b8741a", 22)}<p style="font-weight:600;width:110px;margin-left:16px">{8 + n // 2}:{"30" if n % 2 else "00"}</p>'
        f'<p style="width:300px">{("Hive tour", "Tasting", "Candle making", "Open lid")[n % 4]}</p><p style="flex:1;color:#6b5136">{("Gate", "Barn", "Mill", "Meadow")[n % 3]}</p>'
        f'<a href="#" style="border:1px solid #b8741a;border-radius:6px;padding:7px 18px;font-weight:600;color:#8a5410">Join</a></li>'
        for n in range(24)
    )
    return f"""<body style="width:960px"><header style="background:#33231a;color:#fbf4e4;padding:36px 50px 40px"><h1>Open days</h1><p style="margin-top:6px;font-size:18px;line-height:26px">Every round of the weekend</p></header>
<main style="padding:40px 50px 60px"><h2>Saturday</h2><ul style="margin-top:18px">{rows}</ul></main><footer style="background:#e9dcc0;padding:22px 50px">No rounds in heavy rain.</footer></body>"""


def _overlap() -> str:
    return f"""<body style="width:1140px"><header style="background:#33231a;color:#fbf4e4;display:flex;justify-content:space-between;padding:24px 60px"><p style="font:600 24px/30px Fraunces">Fernhollow</p>{_nav()}</header>
<main style="padding:60px 60px 70px"><div style="display:flex;align-items:flex-start"><section style="background:#fffaf0;border-radius:16px;padding:36px 40px 40px;width:620px"><h1>Keep bees, without the stings</h1>
<p style="width:460px;margin-top:14px">Adopt a hive and we look after it for you. Letters in spring, a visit in summer, and in autumn a box of honey.</p><a href="#" style="display:inline-block;background:#b8741a;color:#fff;border-radius:22px;padding:10px 30px;font-weight:600;margin-top:20px">Adopt a hive</a></section>
<div style="margin:-20px 0 0 -50px;position:relative">{_art("smoker", 360, 300, 5)}</div></div>
<h2 style="margin-top:44px">Where they fly</h2><p style="margin-top:10px;width:700px">Three kilometres in every direction, over the lime alley, the mill and the heather on the hill. We sow what is missing.</p></main></body>"""


def _bleed() -> str:
    def band(title: str, line: str, color: str, ink: str, n: int, flip: bool) -> str:
        words = (
            f'<div style="width:460px"><h2>{title}</h2><p style="margin-top:10px">{line}</p></div>'
        )
        picture = _art(f"view-{n}", 440, 260, n)
        inner = picture + words if flip else words + picture
        return f'<section style="background:{color};color:{ink};padding:56px 120px;display:flex;gap:60px;align-items:center;justify-content:space-between">{inner}</section>'

    return f"""<body style="width:1280px"><header style="display:flex;justify-content:space-between;padding:24px 120px"><p style="font:600 24px/30px Fraunces">Fernhollow</p>{_nav()}</header>
<main><section style="background:#e8ad3c;padding:90px 120px;text-align:center"><h1>A year with the bees</h1><p style="margin-top:12px;font-size:18px;line-height:28px">Four seasons in the meadow, told from the lid.</p></section>
{band("Spring", "The first flight is in March, on a day that nobody expects. Willow pollen, and mud on every boot.", "#fffaf0", "#3a2618", 1, False)}
{band("Summer", "Lime and heather. We take what is too much, and leave what they need for the winter.", "#dfe8d2", "#25351c", 6, True)}
{band("Winter", "They sit in a ball and hum. We listen at the wall, and write letters.", "#33231a", "#f6ecd8", 9, False)}</main>
<footer style="padding:30px 120px;font-size:14px;line-height:20px">Fernhollow Apiary, Mill Lane</footer></body>"""


def _phone() -> str:
    cards = "".join(
        f'<li data-rep="card" style="background:#fffaf0;border-radius:12px;padding:16px;display:flex;gap:16px;align-items:center">'
        f'{_art(f"jar-{n}", 88, 88, n)}<div><h3>{name}</h3><p style="color:#6b5136">{line}</p></div></li>'
        for n, (name, line) in enumerate(
            (
                ("Clover", "Light and mild"),
                ("Heather", "Dark, like toffee"),
                ("Lime", "Fresh, a hint of mint"),
            )
        )
    )
    return f"""<body style="width:390px"><header style="background:#33231a;color:#fbf4e4;padding:20px"><p style="font:600 22px/28px Fraunces">Fernhollow</p></header>
<main style="padding:28px 20px 40px"><h1 style="font-size:34px;line-height:40px">Honey from four meadows</h1><p style="margin-top:10px">Poured by hand, and sent in paper that you can plant.</p>
<a href="#" style="display:block;text-align:center;background:#b8741a;color:#fff;border-radius:24px;padding:12px 0;font-weight:600;margin-top:20px">Order a box</a>
<h2 style="margin-top:36px;font-size:24px;line-height:30px">This week</h2><ul style="display:grid;gap:14px;margin-top:16px">{cards}</ul></main>
<footer style="background:#e9dcc0;padding:20px;font-size:14px;line-height:20px">Fernhollow Apiary, Mill Lane</footer></body>"""


def _form() -> str:
    fields = "".join(
        f'<div style="margin-top:18px"><p style="font-weight:600">{label}</p><div data-field style="background:#fff;border:1px solid #cdbb93;border-radius:6px;padding:10px 14px;margin-top:6px;color:#8a7a66">{hint}</div></div>'
        for label, hint in (
            ("Your name", "As it should stand on the lid"),
            ("Your address", "Where the letters go"),
            ("Kind of hive", "Swarm, colony or apiary"),
        )
    )
    return f"""<body style="width:1000px"><header style="padding:24px 60px;display:flex;justify-content:space-between"><p style="font:600 24px/30px Fraunces">Fernhollow</p>{_nav()}</header>
<main style="padding:40px 60px 80px;display:flex;gap:60px"><section style="width:520px"><h1>Adopt a hive</h1><p style="margin-top:10px">Three lines, and a keeper writes back.</p>{fields}
<a href="#" data-button style="display:inline-block;background:#b8741a;color:#fff;border-radius:22px;padding:10px 34px;font-weight:600;margin-top:26px">Send it</a></section>
<aside style="width:300px;background:#f1e4c8;border-radius:12px;padding:26px 28px 30px"><h2 style="font-size:22px;line-height:28px">Good to know</h2><p style="margin-top:10px;font-size:15px;line-height:23px">You can stop in any season. The bees stay, and so does your name on the lid until spring.</p></aside></main></body>"""


PAGES = {
    "sidebar": _sidebar, "article": _article, "icon-grid": _icon_grid, "pricing": _pricing,
    "dark": _dark, "tall": _tall, "overlap": _overlap, "bleed": _bleed, "phone": _phone,
    "form": _form,
}  # fmt: skip


#: What makes of each page one for a phone, as a person might draw that.
NARROW = """
body{width:375px!important;display:block!important;height:auto!important}
header,main,footer,section,body>div,aside{padding-left:20px!important;padding-right:20px!important}
header{display:flex!important;flex-direction:column;gap:12px;align-items:flex-start!important}
main header,div header{padding-left:0!important}
header nav ul{gap:18px!important;flex-wrap:wrap}
main main{padding:0!important}
div[style*="display:flex"],main[style*="display:flex"],section[style*="display:flex"],
main ul[style*="grid"],main ul[style*="flex"]{display:grid!important;
grid-template-columns:minmax(0,1fr)!important;gap:20px!important}
p,section,aside,main,div,main li{width:auto!important;min-width:0}
svg[data-art]{max-width:100%;height:auto}
main li[style*="height:60px"]{padding:0 12px!important}
main li[style*="height:60px"] p:nth-of-type(1){width:54px!important}
main li[style*="height:60px"] p:nth-of-type(2){width:110px!important;flex:none}
li[style*="height:60px"] a{padding:7px 10px!important}
h1{width:auto!important;font-size:30px!important;line-height:36px!important}
h2{font-size:24px!important;line-height:30px!important}"""


def page(name: str, fonts: str, *, is_narrow: bool = False) -> str:
    """A whole page, with its fonts from a folder."""
    faces = "".join(
        f"@font-face{{font-family:{family};font-weight:{weight};src:url({fonts}/{file})}}"
        for family, weight, file in (
            ("Figtree", 400, "figtree-400.ttf"), ("Figtree", 600, "figtree-600.ttf"),
            ("Fraunces", 600, "fraunces-600.ttf"),
        )
    )  # fmt: skip
    return f'<!doctype html><html lang="en"><meta charset="utf-8"><style>{faces}{_BASE}{NARROW if is_narrow else ""}</style>{PAGES[name]()}</html>'
