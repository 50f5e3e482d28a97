"""A page's form, as a browser would send it back untouched."""

from html.parser import HTMLParser


class Fields(HTMLParser):
    """What stands in the fields of a page's forms: those whose form goes to `action`, or all."""

    def __init__(self, action: str | None = None):
        super().__init__()
        self.action, self.here = action, action is None
        self.values: dict[str, object] = {}
        self.name = self.select = None

    def handle_starttag(self, tag, attrs):
        a = dict(attrs)
        if tag == "form":
            self.here = self.action is None or (a.get("hx-post") or a.get("action", "")) in (self.action, "")
        if not self.here:
            return
        if tag == "input" and a.get("name"):
            if a.get("type") == "checkbox":
                if "checked" in a:
                    self.values.setdefault(a["name"], []).append(a.get("value", "on"))
            else:
                self.values[a["name"]] = a.get("value", "")
        elif tag == "textarea":
            self.name = a["name"]
            self.values[self.name] = ""
        elif tag == "select":
            self.select = a["name"]
        elif tag == "option" and self.select and ("selected" in a or self.select not in self.values):
            self.values[self.select] = a["value"]  # a browser sends the first where none is chosen

    def handle_data(self, data):
        if self.name:
            self.values[self.name] += data

    def handle_endtag(self, tag):
        if tag == "form":
            self.here = self.action is None
        self.name = None if tag == "textarea" else self.name
        self.select = None if tag == "select" else self.select


class _Forms(HTMLParser):
    """Where the forms of a page go, and their fields' names."""

    def __init__(self):
        super().__init__()
        self.actions: list[str] = []

    def handle_starttag(self, tag, attrs):
        a = dict(attrs)
        if tag == "form" and (a.get("method", "").lower() == "post" or "hx-post" in a):
            self.actions.append(a.get("hx-post") or a.get("action") or "")


def forms_of(page: str) -> list[tuple[str, dict]]:
    """Each posting form of a page: where it goes ("" for the page itself) and what a browser would send."""
    found = _Forms()
    found.feed(page)
    return [(action, sent_back(page, action)) for action in found.actions]


def sent_back(page: str, action: str | None = None) -> dict:
    """The fields of a page by name, as a browser sends them."""
    fields = Fields(action)
    fields.feed(page)
    return fields.values
