package typeface_test

import (
	"fmt"
	"testing"

	"amberseal/core/print/typeface"
)

func ExampleFor() {
	text := typeface.Primary("Literata", typeface.Style{})
	for _, r := range "aשن🎻" {
		fmt.Println(typeface.For(r, text, typeface.Style{}).Name)
	}
	// Output:
	// Literata-Regular
	// NotoSansHebrew-Regular
	// NotoSansArabic-Regular
	// NotoEmoji-Regular
}

// Every family has its four styles, all faces of one family are told apart, and every letter that the five languages of
// hyphenation and their neighbours use is in them.
func TestFamiliesAreWhole(t *testing.T) {
	const letters = "AaÄäÖöÜüßẞÀàÂâÇçÉéÈèÊêËëÎîÏïÔôŒœÙùÛûŸÿÑñÁáÍíÓóÚú¿¡ĄąĆćĘęŁłŃńŚśŹźŻż“”„‚‘’«»–—…€£§•"
	for _, family := range typeface.Families() {
		seen := map[string]bool{}
		for _, bold := range []bool{false, true} {
			for _, italic := range []bool{false, true} {
				f := typeface.Primary(family, typeface.Style{Bold: bold, Italic: italic})
				if seen[f.Name] {
					t.Errorf("%s is used for two styles", f.Name)
				}
				seen[f.Name] = true
				for _, r := range letters {
					if !f.Has([]rune{r}) {
						t.Errorf("%s has no %c", f.Name, r)
					}
				}
			}
		}
	}
	own := typeface.Family{
		Regular: typeface.Primary("Literata", typeface.Style{}),
		Bold:    typeface.Primary("Literata", typeface.Style{Bold: true}),
	}
	if own.Face(typeface.Style{Bold: true}) != own.Bold || own.Face(typeface.Style{Italic: true}) != own.Regular {
		t.Error("a face that is missing is not replaced by the regular one")
	}
}

// The words for “language” or “human” in scripts of the world, as Unicode's names list has them; from memory.
func TestEveryScriptHasAFace(t *testing.T) {
	text := typeface.Primary("IBM Plex Sans", typeface.Style{Bold: true})
	for _, word := range []string{
		"Հայերեն", "ქართული", "বাংলা", "தமிழ்", "తెలుగు", "ગુજરાતી", "ਪੰਜਾਬੀ", "ಕನ್ನಡ", "മലയാളം", "සිංහල", "ខ្មែរ", "ລາວ", "မြန်မာ", "አማርኛ",
		"中文王小明", "日本語ひらがなカタカナ", "한국어", "हिन्दी", "ไทย", "עברית", "العربية", "∈𝐀𝄞、。（）",
	} {
		for _, r := range word {
			if !typeface.For(r, text, typeface.Style{Bold: true}).Has([]rune{r}) {
				t.Errorf("no face has %c of %s", r, word)
			}
		}
	}
}

// The Han character 直 is written otherwise in Chinese and in Japanese (Unicode Standard 15, section 18.1, figure on variants of
// 直 and 骨); kana are Japanese wherever they stand.
func TestHanFormsFollowTheLanguage(t *testing.T) {
	text := typeface.Primary("Literata", typeface.Style{})
	for _, r := range "直骨、" {
		chinese, japanese := typeface.For(r, text, typeface.Style{}), typeface.For(r, text, typeface.Style{Japanese: true})
		if chinese.Name != "DroidSansFallback-Regular" || japanese.Name != "NotoSansJP-Regular" || !japanese.Has([]rune{r}) {
			t.Errorf("%c is %s in Chinese, %s in Japanese", r, chinese.Name, japanese.Name)
		}
	}
	if f := typeface.For('ひ', text, typeface.Style{}); f.Name != "NotoSansJP-Regular" {
		t.Errorf("kana are set in %s", f.Name)
	}
	if f := typeface.For('㒵', text, typeface.Style{Japanese: true}); !f.Has([]rune{'㒵'}) { // beyond JIS X 0208
		t.Errorf("a rare character is lost in %s", f.Name)
	}
}
