package pnp

import (
	"encoding/json"
	"io"
	"strings"

	"github.com/beevik/etree"

	"pineledger/core/support"
)

// Write writes a student's profile as one file.
func Write(w io.Writer, student string, haves []support.Have) error {
	doc := etree.NewDocument()
	doc.CreateProcInst("xml", `version="1.0" encoding="UTF-8"`)
	rec := doc.CreateElement(record)
	rec.CreateAttr("xmlns", Namespace)
	rec.CreateAttr("xmlns:pl", OwnSpace)
	rec.CreateElement(personID).SetText(student)
	top := rec.CreateElement(root)
	for _, h := range haves {
		e := feature(top, h)
		for name, value := range map[string]string{"ground": h.Ground, "from": h.From, "to": h.To, "subjects": strings.Join(h.Subjects, "|")} {
			if value != "" {
				e.CreateAttr("pl:"+name, value)
			}
		}
		e.SortAttrs()
	}
	doc.Indent(2)
	_, err := doc.WriteTo(w)
	return err
}

// feature writes a support by its name in the standard, or else by our own.
func feature(top *etree.Element, h support.Have) *etree.Element {
	s, _ := support.ByKey(h.Key)
	child := func(name, text string) *etree.Element {
		e := top.CreateElement(s.Feature)
		e.CreateElement(name).SetText(text)
		return e
	}
	switch h.Key {
	case support.ExtraTime:
		if text(h.Value) == support.Unlimited {
			return child("unlimited", "true")
		}
		return child("time-multiplier", text(h.Value))
	case support.ExtraMinutes:
		return child("fixed-minutes", string(h.Value))
	case support.ReadAloud:
		var parts []string
		if json.Unmarshal(h.Value, &parts) == nil {
			return child("pl:parts", strings.Join(parts, " "))
		}
	case support.InLanguage:
		e := top.CreateElement(s.Feature)
		e.CreateAttr("xml:lang", text(h.Value))
		return e
	case support.LargePrint:
		return child("all-content", text(h.Value))
	case support.Colors:
		return child("pl:colors", text(h.Value))
	case support.Calculator:
		return child("calculator-type", text(h.Value))
	case support.Breaks:
		e := top.CreateElement(s.Feature)
		e.SetText(string(h.Value))
		return e
	}
	if s.Feature != "" {
		return top.CreateElement(s.Feature)
	}
	e := top.CreateElement("pl:support")
	e.CreateAttr("key", h.Key)
	e.SetText(string(h.Value))
	return e
}

func text(value json.RawMessage) string {
	var v string
	if json.Unmarshal(value, &v) != nil {
		return ""
	}
	return v
}
