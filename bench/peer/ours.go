package main

import (
	"context"
	"fmt"
	"io"
	"log/slog"
	"math/rand/v2"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"time"

	"dogbolt/internal/demo"
	"dogbolt/internal/rooms"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/standin"
	"dogbolt/internal/store"
)

// jobAt makes the row of a job, for both.
func jobAt(i int) store.Job {
	towns := []string{"Quillmouth", "Aldermoor", "Saltbeck", "Copper Flats", "Lake Orrin"}
	stages := []string{"survey", "design", "clearances", "plan", "install", "commission", "handover"}
	first := time.Date(2026, 1, 1, 0, 0, 0, 0, time.UTC)
	return store.Job{
		ID: fmt.Sprint(i), Number: fmt.Sprintf("L-%06d", i), Rulebook: "nec:2023", Customer: fmt.Sprintf("Customer %d", i%977), Address: fmt.Sprintf("%d Mill Lane", i%311),
		Town: towns[i%5], Stage: stages[i%7], Stops: i % 3, Opens: i % 11, NextDate: first.AddDate(0, 0, i%900).Format(time.DateOnly), NextWhat: "installation",
	}
}

// fillOurs makes the demo's jobs, for opening, an account with every role, and the jobs.
func fillOurs(folder string, n int) error {
	if err := os.MkdirAll(folder, 0o700); err != nil {
		return err
	}
	s, err := store.Open(filepath.Join(folder, "dogbolt.db"))
	if err != nil {
		return err
	}
	defer s.Close()
	ctx := context.Background()
	outside, err := demo.Outside(folder, time.Now())
	if err != nil {
		return err
	}
	r := rooms.New(s, slog.New(slog.NewTextHandler(io.Discard, nil)), standin.Instruments{})
	r.Connect(outside)
	if err := demo.Fill(ctx, r, time.Now()); err != nil {
		return err
	}
	if _, _, err := r.People.AddUserLocally(ctx, people.NewUser{Username: "one", Name: "One Measures", Roles: people.AllRoles, Password: password}); err != nil {
		return err
	}
	for at := 0; at < n; at += 5000 {
		err := s.Write(ctx, func(tx *store.Tx) error {
			for i := at; i < min(at+5000, n); i++ {
				if err := tx.CreateJob(jobAt(i)); err != nil {
					return err
				}
			}
			return nil
		})
		if err != nil {
			return err
		}
	}
	return nil
}

// startOurs fills a folder, serves it, and signs in.
func startOurs(binary, folder string, n int) (*site, error) {
	if err := fillOurs(folder, n); err != nil {
		return nil, fmt.Errorf("fill: %w", err)
	}
	addr, err := freeAddress()
	if err != nil {
		return nil, err
	}
	s, err := start(exec.Command(binary, "serve", "--data", folder, "--addr", addr), addr, "/healthz")
	if err != nil {
		return nil, err
	}
	return s, s.do("POST", "/api/session", map[string]string{"username": "one", "password": password}, nil)
}

// openOne returns how a job with two points is opened.
func (s *site) openOne() (func() error, error) {
	var found struct{ Jobs []struct{ ID string } }
	if err := s.do("GET", "/api/jobs?search=DB-0423", nil, &found); err != nil || len(found.Jobs) != 1 {
		return nil, fmt.Errorf("the job with two points: %d found, %w", len(found.Jobs), err)
	}
	return func() error { return s.get("/api/jobs/" + found.Jobs[0].ID) }, nil
}

func (s *site) newJob() (string, error) {
	var v struct{ Row struct{ ID string } }
	return v.Row.ID, s.do("POST", "/api/jobs", map[string]any{"rulebook": "nec:2023", "points": 1, "site": map[string]any{}}, &v)
}

func (s *site) log(job string, ids ...string) error {
	var entries []map[string]any
	for _, id := range ids {
		entries = append(entries, map[string]any{"id": id, "kind": "note", "reason": "a note from site", "at": time.Now().UTC()})
	}
	return s.do(http.MethodPost, "/api/jobs/"+job+"/log", map[string]any{"entries": entries}, nil)
}

// mixed asks what people ask: the list, jobs, searches, and entries, one after the other.
func mixed(s *site, n int) error {
	r := rand.New(rand.NewPCG(1, 1))
	open, err := s.openOne()
	if err != nil {
		return err
	}
	job, err := s.newJob()
	if err != nil {
		return err
	}
	for i := range n {
		switch r.IntN(6) {
		case 0, 1:
			err = s.get("/api/jobs?limit=50")
		case 2:
			err = s.get(fmt.Sprintf("/api/jobs?limit=50&search=customer+%d", r.IntN(977)))
		case 3, 4:
			err = open()
		default:
			err = s.log(job, fmt.Sprintf("mixed-%06d", i))
		}
		if err != nil {
			return err
		}
	}
	return nil
}
