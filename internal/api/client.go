package api

import (
	"net/url"
	"strings"
	"unicode/utf8"

	"github.com/gin-gonic/gin"
)

// client is what tells the client of a request from others, as it calls itself.
func client(c *gin.Context) string { return c.GetHeader("X-Brick-Shelf") }

// longestName is how many letters of a name are kept.
const longestName = 80

// author is who makes an edit, as they sign it; "" where they do not.
func author(c *gin.Context) string {
	name, err := url.PathUnescape(c.GetHeader("X-Brick-Shelf-Author"))
	if err != nil || !utf8.ValidString(name) {
		return ""
	}
	letters := []rune(strings.Join(strings.Fields(name), " "))
	return string(letters[:min(len(letters), longestName)])
}
