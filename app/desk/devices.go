package desk

import (
	"crypto/hmac"
	"crypto/sha256"
	"encoding/base64"
	"encoding/json"
	"strings"
	"time"
)

// managedDevice is what a managed device says of itself.
type managedDevice struct {
	Name  string    `json:"name"`
	Until time.Time `json:"until"`
}

// SignDevice gives what a device that the district manages says of itself until a moment: its name, signed with the district's secret.
func SignDevice(secret []byte, name string, until time.Time) (string, error) {
	said, err := json.Marshal(managedDevice{name, until.UTC()})
	if err != nil {
		return "", err
	}
	body := base64.RawURLEncoding.EncodeToString(said)
	return body + "." + deviceSeal(secret, body), nil
}

// ManagedDevice tells whether what a device says of itself is signed by the district and still holds.
func (a *Desk) ManagedDevice(said string) bool {
	body, seal, ok := strings.Cut(said, ".")
	if !ok || !hmac.Equal([]byte(seal), []byte(deviceSeal(a.secret, body))) {
		return false
	}
	data, err := base64.RawURLEncoding.DecodeString(body)
	var d managedDevice
	return err == nil && json.Unmarshal(data, &d) == nil && a.Now().Before(d.Until)
}

func deviceSeal(secret []byte, body string) string {
	mac := hmac.New(sha256.New, secret)
	mac.Write([]byte("managed device\n" + body))
	return base64.RawURLEncoding.EncodeToString(mac.Sum(nil))
}
