package api

import (
	"encoding/json"
	"fmt"
	"net/http"
	"net/http/httptest"
	"testing"

	"github.com/gin-gonic/gin"
	"github.com/stretchr/testify/require"

	"brickshelf/internal/store"
)

func TestAFullDiskIsToldWithTheWayOut(t *testing.T) {
	rec := httptest.NewRecorder()
	c, _ := gin.CreateTestContext(rec)
	c.Request = httptest.NewRequest(http.MethodPost, "/", nil)
	(&handlers{&Server{}}).fail(c, fmt.Errorf("saving: %w", store.ErrFull))
	require.Equal(t, http.StatusInsufficientStorage, rec.Code)
	var p Problem
	require.NoError(t, json.Unmarshal(rec.Body.Bytes(), &p))
	require.Contains(t, p.Detail, "Free some space")
}
